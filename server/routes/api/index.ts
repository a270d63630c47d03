/** The address above all others is no page either. */
export { default } from './[...]'
