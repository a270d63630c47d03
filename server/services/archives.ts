import { unzip, type UnzipFileInfo } from 'fflate'
import { PackageError, readPackage, type Family, type PackageInfo } from '@pasticcio/core'
import { ServiceError } from './errors'
import { SIZES } from './sizes'

/** Reads a package's bytes: only its descriptor and default settings are unpacked, in memory. @throws ServiceError `bad-package` */
export async function readArchive(bytes: Uint8Array, family: Family, fileName: string): Promise<PackageInfo> {
  const { file, defaults } = family.descriptor
  try {
    const files = await unpack(bytes, (name) => name === file || (defaults !== undefined && name.startsWith(defaults)))
    const texts = new Map(
      Object.entries(files)
        .filter(([name]) => !name.endsWith('/'))
        .map(([name, data]) => [name, new TextDecoder('utf-8', { ignoreBOM: true }).decode(data)]),
    )
    return readPackage(texts, family)
  } catch (error) {
    const why = error instanceof PackageError ? error.message : 'it is not an archive, or it is damaged'
    throw new ServiceError(
      'bad-package',
      422,
      `${fileName} is no package for this server: ${why}. Download it again, or check that it is meant for this game.`,
      { cause: error },
    )
  }
}

/** One file of an archive. @throws ServiceError `bad-package` when it holds none of this name */
export async function memberOf(bytes: Uint8Array, member: string, fileName: string): Promise<Uint8Array> {
  const found = await unpack(bytes, (name) => name === member).catch(() => null)
  const data = found?.[member]
  if (!data) throw new ServiceError('bad-package', 422, `${fileName} holds no ${member}. Download it again.`)
  return data
}

function unpack(bytes: Uint8Array, wanted: (name: string) => boolean): Promise<Record<string, Uint8Array>> {
  let seen = 0
  const filter = (file: UnzipFileInfo): boolean => ++seen <= SIZES.members && file.originalSize <= SIZES.member && wanted(file.name)
  return new Promise((resolve, reject) => {
    unzip(bytes, { filter }, (error, data) => (error ? reject(error) : resolve(data)))
  })
}
