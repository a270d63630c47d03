/** Day or evening, kept in this browser and shown on the whole page. */
export function useTheme() {
  const theme = useLocalStorage<'' | 'evening'>('pasticcio-theme', '')
  const evening = computed(() => theme.value === 'evening')
  watchEffect(() => (document.documentElement.dataset['theme'] = theme.value))
  return { evening, toggleTheme: () => (theme.value = evening.value ? '' : 'evening') }
}
