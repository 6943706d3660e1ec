// @vitest-environment happy-dom
import { expect, it } from 'vitest'
import { defineComponent, nextTick, ref } from 'vue'
import { mounted } from '../testing/mounted'
import { whenLookedAt } from './when-looked-at'

it('what changes while nobody looks is made up for once, in order, before it is looked at again', async () => {
  const looked = ref(true)
  const done: string[] = []
  let show!: (what: string, work: () => unknown) => void
  const host = await mounted(
    defineComponent({
      setup() {
        show = whenLookedAt(
          () => looked.value,
          () => done.push('begin'),
          () => done.push('end'),
        )
        return () => null
      },
    }),
  )
  show('ground', () => done.push('ground 1'))
  looked.value = false
  await nextTick()
  for (const n of [2, 3]) show('ground', () => done.push(`ground ${n}`))
  show('agents', () => done.push('agents'))
  expect(done).toEqual(['ground 1', 'end'])
  looked.value = true
  await nextTick()
  expect(done.slice(2)).toEqual(['ground 3', 'agents', 'begin'])
  looked.value = false
  await nextTick()
  looked.value = true
  await nextTick()
  expect(done.slice(5)).toEqual(['end', 'begin'])
  host.end()
})
