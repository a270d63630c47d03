import { unzip, type UnzipFileInfo } from 'fflate'
import { PackageError, readPackage, type Family, type PackageInfo } from '@pasticcio/core'
import { ServiceError } from './errors'

const LARGEST_FILE = 4 * 1024 * 1024
const MOST_FILES = 4000

/** Reads a package's bytes: only its descriptor and default settings are unpacked, in memory. @throws ServiceError `bad-package` */
export async function readArchive(bytes: Uint8Array, family: Family, fileName: string): Promise<PackageInfo> {
  const wanted = (name: string): boolean =>
    name === family.descriptor.file || (family.descriptor.defaults !== undefined && name.startsWith(family.descriptor.defaults))
  let seen = 0
  try {
    const files = await new Promise<Record<string, Uint8Array>>((resolve, reject) => {
      unzip(
        bytes,
        { filter: (file: UnzipFileInfo) => ++seen <= MOST_FILES && wanted(file.name) && file.originalSize <= LARGEST_FILE },
        (error, data) => (error ? reject(error) : resolve(data)),
      )
    })
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
