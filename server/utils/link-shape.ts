import { object, string } from 'yup'

/** A package by its link, and what its file's SHA-256 must be where somebody knows. */
export const linkShape = object({
  link: string().required().max(2000),
  sha256: string()
    .matches(/^[0-9a-f]{64}$/i, 'sha256 takes the 64 digits of a SHA-256')
    .nullable(),
})
