/** How many engines are open: in these tests they run beside the stores instead of in workers. */
export const engines = { open: 0 }
