// the parts of parsers without types that the tests compare ours with
declare module 'sax' {
  interface Parser {
    onopentag: (tag: { name: string }) => void
    onclosetag: () => void
    ontext: (text: string) => void
    oncdata: (text: string) => void
    onerror: (error: Error) => void
    write(text: string): Parser
    close(): Parser
  }
  const sax: { parser(strict: boolean, options: { trim: boolean }): Parser }
  export default sax
}
declare module 'luaparse' {
  namespace luaparse {
    interface Node {
      readonly type: string
    }
    type Expression =
      | { type: 'NilLiteral' }
      | { type: 'StringLiteral'; value: string; raw: string }
      | { type: 'NumericLiteral'; value: number }
      | { type: 'BooleanLiteral'; value: boolean }
      | { type: 'UnaryExpression'; argument: Expression }
      | TableConstructorExpression
      | { type: 'Identifier'; name: string }
      | { type: 'MemberExpression'; base: Expression; identifier: { name: string } }
      | { type: 'IndexExpression'; base: Expression; index: Expression }
      | { type: 'CallExpression' }
    interface TableKey {
      type: 'TableKey'
      key: Expression
      value: Expression
    }
    interface TableConstructorExpression {
      type: 'TableConstructorExpression'
      fields: (
        { type: 'TableValue'; value: Expression } | TableKey | { type: 'TableKeyString'; key: { name: string }; value: Expression }
      )[]
    }
    interface Chunk {
      body: (
        | { type: 'ReturnStatement'; arguments: Expression[] }
        | { type: 'AssignmentStatement'; variables: Expression[]; init: Expression[] }
        | { type: 'LocalStatement' }
      )[]
    }
  }
  const luaparse: { parse(text: string, options: { luaVersion: string; encodingMode?: string }): luaparse.Chunk }
  export default luaparse
}
