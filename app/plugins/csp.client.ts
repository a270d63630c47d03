/** The styles that PrimeVue's parts add by themselves carry the page's nonce. */
export default defineNuxtPlugin({
  enforce: 'post',
  setup: ({ vueApp }) => {
    vueApp.config.globalProperties.$primevue.config.csp = { nonce: cspNonce() }
  },
})
