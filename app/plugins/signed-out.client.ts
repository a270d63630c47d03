/** Whoever is not signed in, or not any more, is led to where one signs in, and back afterwards. */
export default defineNuxtPlugin(() => {
  const router = useRouter()
  onSignedOut(() => {
    const { path, fullPath } = router.currentRoute.value
    if (path !== '/sign-in' && path !== '/join') void router.push({ path: '/sign-in', query: fullPath === '/' ? {} : { to: fullPath } })
  })
})
