import { getActivePinia } from 'pinia'
import { createApp, h, nextTick, type Component } from 'vue'

/** A component as it stands on the page with the stores of the test, and all Vue has to complain of. */
export async function mounted(component: Component, props: object = {}) {
  const host = document.createElement('div')
  document.body.append(host)
  const warnings: string[] = []
  const app = createApp({ render: () => h(component, props) })
  app.config.warnHandler = (text) => void warnings.push(text)
  app.use(getActivePinia()!)
  app.mount(host)
  await nextTick()
  const field = (label: string) =>
    host.querySelector<HTMLInputElement>(`input[aria-label="${label}"], select[aria-label="${label}"]`)!
  return {
    host,
    warnings,
    field,
    async type(label: string, text: string) {
      const input = field(label)
      input.value = text
      for (const event of ['input', 'change', 'blur']) input.dispatchEvent(new Event(event))
      await nextTick()
    },
    /** Ticks the box that is labelled so, or takes the tick away. */
    async tick(label: string, on: boolean) {
      const box = [...host.querySelectorAll('label')].find((l) => l.textContent!.trim() === label)!
      const input = box.querySelector<HTMLInputElement>('input[type=checkbox]')!
      if (input.checked !== on) input.click()
      await nextTick()
    },
    labels: () => [...host.querySelectorAll('.label, label')].map((e) => e.textContent!.trim()),
    button: (text: string) => [...host.querySelectorAll('button')].find((b) => b.textContent?.trim() === text)!,
    end() {
      app.unmount()
      host.remove()
    },
  }
}
