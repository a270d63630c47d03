/*
 * The classes that PrimeVue's parts get, once for all places: its components bring the behaviour, and our sheets bring
 * the look (pass-through, since they run unstyled).
 */
const parts = {
  dialog: { mask: 'mask', root: 'dialog', header: 'dialog-head', content: 'dialog-body' },
  checkbox: { root: 'check', input: 'check-input', box: 'check-box', icon: 'check-mark' },
  select: { root: 'in sel w3', label: 'sel-label', dropdown: 'sel-drop', overlay: 'menu', option: 'menu-item' },
  toggleswitch: { root: 'sw-box', input: 'sw-input', slider: 'sw-rail', handle: 'sw-knob' },
  selectbutton: { root: 'seg', pcToggleButton: { root: 'seg-item', content: 'seg-content', label: 'seg-label' } },
  progressbar: { root: 'progress', value: 'progress-value' },
  confirmpopup: {
    root: ({ instance }: { instance: { confirmation?: { message?: string } } }) => ({
      class: 'confirm',
      'aria-label': instance.confirmation?.message ?? 'Are you sure?',
    }),
    content: 'confirm-text',
    footer: 'confirm-acts',
    pcRejectButton: { root: 'btn quiet' },
    pcAcceptButton: { root: 'btn' },
  },
  menu: { root: 'menu', list: 'menu-list', itemContent: 'menu-item', separator: 'menu-rule' },
  message: {
    root: ({ props }: { props: { severity?: string } }) =>
      props.severity === 'error' ? 'problem' : props.severity === 'warn' ? 'problem mild' : 'good',
    icon: 'sr',
  },
  inputtext: { root: ({ props }: { props: { invalid?: boolean } }) => ['in', { bad: props.invalid }] },
  datatable: { root: 'table', table: 'table-rows', mask: 'sr' },
  column: { headerCell: 'table-head', bodyCell: 'table-cell' },
  splitter: { root: 'split', gutter: 'split-gutter', gutterHandle: 'split-handle' },
  splitterpanel: { root: 'split-panel' },
  toast: {
    root: 'toasts',
    message: ({ props }: { props: { message?: { severity?: string } } }) => ['toast', { bad: props.message?.severity === 'error' }],
    messageContent: 'toast-line',
    messageIcon: 'sr',
    closeButton: 'toast-close',
    detail: 'sr',
  },
}

export default parts
