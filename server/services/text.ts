import { ServiceError } from './errors'

/** The text of a file's bytes. @throws ServiceError `not-utf8` */
export function decode(path: string, bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes)
  } catch (error) {
    throw new ServiceError('not-utf8', 422, `${path} is not UTF-8 text. Save it as UTF-8 with another program first.`, { cause: error })
  }
}
