import { readFileSync, readdirSync } from 'node:fs'
import { createServer } from 'node:http'
import { basename, join } from 'node:path'
import { offersIn } from './offers'

/*
 * The plugin site: GET /index.json lists packages with versions, GET /packages/<file> is a package.
 * Usage: site.mjs FOLDER PORT. It listens on loopback only and prints one line when it does.
 */
const [folder, port] = [process.argv[2] ?? '.', Number(process.argv[3] ?? 0)]

const server = createServer((request, response) => {
  const path = new URL(request.url ?? '/', 'http://site.example').pathname
  if (path === '/index.json')
    return void response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(offersIn(folder)))
  const file = basename(decodeURIComponent(path))
  if (!path.startsWith('/packages/') || !readdirSync(folder).includes(file))
    return void response.writeHead(404, { 'content-type': 'text/plain' }).end('There is no such package.')
  response
    .writeHead(200, { 'content-type': 'application/octet-stream', 'content-disposition': `attachment; filename="${file}"` })
    .end(readFileSync(join(folder, file)))
})
server.listen(port, '127.0.0.1', () => {
  const address = server.address()
  process.stdout.write(`plugin site on port ${typeof address === 'object' ? address?.port : port}\n`)
})
process.on('SIGTERM', () => process.exit(0))
