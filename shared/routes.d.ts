/** The routes of the API as their files say; made when the app is built (nuxt.config.ts). */
declare module '#routes' {
  const routes: readonly { readonly route?: string; readonly method?: string }[]
  export default routes
}
