import { CAUSES, type FindingCode, type Severity } from '@pasticcio/core'

/** A finding as the command line tells it. */
export interface Row {
  readonly file: string
  readonly line: number
  readonly column: number
  readonly severity: Severity
  readonly code: FindingCode
  readonly message: string
  readonly related?: readonly { readonly file: string; readonly line: number; readonly why: string }[]
}

/** A path as the URI of an artifact, relative to the folder that was checked (RFC 3986: each part encoded). */
const uriOf = (path: string): string => path.split('/').map(encodeURIComponent).join('/')

const place = (file: string, startLine: number, startColumn?: number) => ({
  physicalLocation: {
    artifactLocation: { uri: uriOf(file), uriBaseId: 'SERVER' },
    region: startColumn === undefined ? { startLine } : { startLine, startColumn },
  },
})

/** Findings as a SARIF log, version 2.1.0 (OASIS), for tools that guard a repository. */
export function sarifOf(rows: readonly Row[], version: string): unknown {
  const codes = [...new Set(rows.map(({ code }) => code))].sort()
  return {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Pasticcio',
            version,
            rules: codes.map((id) => ({ id, shortDescription: { text: CAUSES[id].title }, fullDescription: { text: CAUSES[id].says } })),
          },
        },
        originalUriBaseIds: { SERVER: { description: { text: 'The folder that was checked.' } } },
        columnKind: 'utf16CodeUnits',
        results: rows.map(({ file, line, column, severity, code, message, related = [] }) => ({
          ruleId: code,
          ruleIndex: codes.indexOf(code),
          level: severity,
          message: { text: message },
          locations: [place(file, line, column)],
          ...(related.length > 0
            ? { relatedLocations: related.map((one) => ({ ...place(one.file, one.line), message: { text: one.why } })) }
            : {}),
        })),
      },
    ],
  }
}
