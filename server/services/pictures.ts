import type { Rule } from '@pasticcio/core'
import { imageSize } from 'image-size'
import { ServiceError } from './errors'

/** What pictures may be: kinds that hold pixels, and no programs. */
export const PICTURE_KINDS = ['png', 'jpg', 'gif', 'webp', 'bmp'] as const
export type PictureKind = (typeof PICTURE_KINDS)[number]

export interface PictureFacts {
  readonly kind: PictureKind
  /** In pixels. */
  readonly width: number
  readonly height: number
}

/** What a file is, by its bytes and whatever it is called; null for what is no picture, or is cut off. */
export function pictureIn(bytes: Uint8Array): PictureFacts | null {
  try {
    const { type, width, height } = imageSize(bytes)
    const kind = PICTURE_KINDS.find((one) => one === type)
    return kind && width > 0 && height > 0 ? { kind, width, height } : null
  } catch (error) {
    // what it throws for anything that is no picture has no type of its own
    if (error instanceof Error) return null
    throw error
  }
}

/** @throws ServiceError `picture-differs` where an upload is no picture, another kind than its name says, or of another size */
export function fitPicture(
  { width, height }: Rule,
  upload: { readonly name: string; readonly bytes: Uint8Array; readonly asItIs: boolean },
): void {
  const { name, bytes, asItIs } = upload
  const facts = pictureIn(bytes)
  const differs = (what: string): ServiceError =>
    new ServiceError('picture-differs', 422, `${name} ${what} Nothing was staged.`, { data: { picture: facts, width, height } })
  if (!facts) throw differs(`is no picture that can be read. Take ${PICTURE_KINDS.join(', ')}.`)
  const called = name
    .slice(name.lastIndexOf('.') + 1)
    .toLowerCase()
    .replace('jpeg', 'jpg')
  if (called !== facts.kind)
    throw differs(
      `is called .${called} and is a ${facts.kind.toUpperCase()}. Give it the right name, or make it a ${called.toUpperCase()}.`,
    )
  const isRight = (width === undefined || facts.width === width) && (height === undefined || facts.height === height)
  if (!isRight && !asItIs)
    throw differs(
      `is ${facts.width}×${facts.height}, and the setting takes ${width ?? 'any'}×${height ?? 'any'}. Resize it, or say that it is right as it is.`,
    )
}
