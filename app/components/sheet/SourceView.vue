<script setup lang="ts">
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands'
import { syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState, RangeSetBuilder, type Text, type Transaction } from '@codemirror/state'
import {
  Decoration,
  EditorView,
  ViewPlugin,
  highlightActiveLine,
  keymap,
  lineNumbers,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import { formatOf } from '@pasticcio/core'
import { highlighterOf } from '~/utils/highlighters'
import { sourceLook } from '~/utils/source-look'
import { SourcePlaces, editsOf } from '~/utils/source-places'

/** The source of the same draft the sheet shows; lines that are mine carry the saffron bar. */
const sheet = useSheetStore()
const session = useSessionStore()
const host = useTemplateRef<HTMLElement>('host')
let editor: EditorView | null = null
/** The draft's version that the editor shows: what the draft did by itself is told by a later one. */
let shown = sheet.version
const places = new SourcePlaces(sheet.text)

/** Marks the lines of settings that are mine, as far as they are in view. */
const mineLines = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = markMine(view)
    }
    update(change: ViewUpdate): void {
      if (change.docChanged || change.viewportChanged || change.transactions.length > 0) this.decorations = markMine(change.view)
    }
  },
  { decorations: (plugin) => plugin.decorations },
)
function markMine(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>()
  const { doc } = view.state
  const from = doc.lineAt(view.viewport.from).number
  const to = doc.lineAt(view.viewport.to).number
  for (const line of sheet.mineLines)
    if (line >= from && line <= to) builder.add(doc.line(line).from, doc.line(line).from, Decoration.line({ class: 'cm-mine' }))
  return builder.finish()
}

onMounted(() => {
  const format = formatOf(sheet.view?.path ?? '')
  editor = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: sheet.text,
      extensions: [
        EditorView.cspNonce.of(cspNonce()),
        EditorView.contentAttributes.of({ 'aria-label': `Source of ${sheet.view?.path ?? 'the file'}`, tabindex: '0' }),
        lineNumbers(),
        history(),
        highlightActiveLine(),
        lintGutter(),
        keymap.of([...defaultKeymap, ...historyKeymap, indentWithTab]),
        format ? highlighterOf(format, sheet.text.length) : [],
        syntaxHighlighting(sourceLook),
        mineLines,
        EditorState.readOnly.of(!session.mayEdit),
        // the draft keeps its own line ends; the editor must not change them
        EditorState.lineSeparator.of(places.lineEnd),
        EditorView.updateListener.of(onUpdate),
      ],
    }),
  })
  showFocus()
  showFindings()
})
onBeforeUnmount(() => editor?.destroy())

function onUpdate(change: ViewUpdate): void {
  if (change.docChanged && !change.transactions.some(isOurs)) {
    const edits = editsOf(change, places)
    shown = sheet.version + 1
    sheet.edit(edits)
  }
  if (change.selectionSet || change.docChanged) void followCursor(change.state)
}
const isOurs = (transaction: Transaction): boolean => transaction.isUserEvent('draft')

async function followCursor(state: EditorState): Promise<void> {
  if (!editor?.hasFocus) return
  const pointer = await sheet.pointerAtLine(state.doc.lineAt(state.selection.main.head).number)
  if (pointer !== '' && editor?.hasFocus) sheet.focus = pointer
}
function showFocus(): void {
  const line = sheet.inFocus?.line ?? 0
  if (!editor || editor.hasFocus || line < 1) return
  const place = startOf(editor.state.doc, line)
  editor.dispatch({ selection: { anchor: place }, effects: EditorView.scrollIntoView(place, { y: 'center' }) })
}
function startOf(doc: Text, line: number): number {
  return doc.line(Math.min(line, doc.lines)).from
}
function showFindings(): void {
  if (!editor) return
  const { doc } = editor.state
  editor.dispatch(
    setDiagnostics(
      editor.state,
      sheet.findings.map(({ line, column, from, to, severity, message }) => {
        const start = Math.min(startOf(doc, line) + column - 1, doc.length)
        const end = Math.min(start + Math.max(0, to - from), doc.length)
        return { from: start, to: end, severity: severity === 'note' ? ('info' as const) : severity, message }
      }),
    ),
  )
}
/** The draft changed by itself, as by an undo or in the sheet: the editor follows with as little as must change. */
function follow(version: number): void {
  if (!editor || version === shown) return
  shown = version
  const change = places.difference(editor.state.doc, sheet.text)
  if (change) editor.dispatch({ changes: change, userEvent: 'draft' })
}
watch(() => sheet.version, follow)
watch(() => sheet.inFocus?.line, showFocus)
watch(() => sheet.findings, showFindings)
</script>

<template>
  <div ref="host" class="source" :aria-label="`Source of ${sheet.view?.path}`" />
</template>
