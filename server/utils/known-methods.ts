interface Route {
  /** As in `/api/servers/:slug/file`. */
  readonly route?: string
  readonly method?: string
}

/** The methods an address of the API takes; none for an address that is not there. */
export function methodsOf(path: string, routes: readonly Route[]): string[] {
  const parts = path.split('/')
  const fits = (route: string): boolean => {
    const wanted = route.split('/')
    return wanted.length === parts.length && wanted.every((part, i) => (part.startsWith(':') ? parts[i] !== '' : part === parts[i]))
  }
  return [...new Set(routes.flatMap(({ route, method }) => (route && method && fits(route) ? [method.toUpperCase()] : [])))].sort()
}
