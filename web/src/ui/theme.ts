import { usePreferredDark, useStorage } from '@vueuse/core'
import { computed, watchEffect } from 'vue'

const choice = useStorage<'system' | 'day' | 'night'>('tidytrail-theme', 'system')

/** Day or night: as the system says, until somebody chooses. */
export function useTheme() {
  const dark = usePreferredDark()
  const night = computed(() => (choice.value === 'system' ? dark.value : choice.value === 'night'))
  watchEffect(() => {
    document.documentElement.dataset.theme = night.value ? 'night' : 'day'
  })
  return { night, toggle: () => (choice.value = night.value ? 'day' : 'night') }
}
