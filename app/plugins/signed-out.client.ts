/**
 * Whoever is not signed in is led to where one signs in, and back afterwards. Whoever was, and is at work, stays where they
 * are and signs in there: nothing that was typed goes with the page.
 */
export default defineNuxtPlugin(() => {
  const router = useRouter()
  const session = useSessionStore()
  onSignedOut(() => {
    const { path, fullPath } = router.currentRoute.value
    if (path === '/sign-in' || path === '/join') return
    if (session.me) session.isLost = true
    else void router.push({ path: '/sign-in', query: fullPath === '/' ? {} : { to: fullPath } })
  })
})
