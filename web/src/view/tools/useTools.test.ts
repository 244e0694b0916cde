import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useView } from '../../stores/useView'
import type { Stage, ToolKind } from './tool'
import { TOOLS } from './list'
import { useTools } from './useTools'

const canvas = {
  getBoundingClientRect: () => ({ left: 0, top: 0, width: 200, height: 100 }),
  setPointerCapture: () => told.push('captured'),
} as unknown as HTMLCanvasElement
let told: string[] = []
const stage = {
  scene: () => ({ setTurning: (on: boolean) => told.push(`turns ${on}`), dotAt: () => -1, handle: { busy: false } }),
  canvas: ref(canvas),
  area: ref({ width: 200, height: 100 }),
  handles: { targets: ref([]), which: ref(0) },
} as unknown as Stage
const at = (x: number, y: number, more = {}) => ({ clientX: x, clientY: y, button: 0, ...more }) as PointerEvent

describe('tools', () => {
  it('are one list with names of their own', () => {
    expect(new Set(TOOLS.map((tool) => tool.name)).size).toBe(TOOLS.length)
    for (const tool of TOOLS) expect(tool.help.endsWith('.')).toBe(true)
  })

  it('get what the pointer does while they are in use', async () => {
    const wanted = ref<string | null>(null)
    const kinds: ToolKind[] = [
      {
        name: 'click',
        help: '',
        make: () => ({
          turns: true,
          onClick: ({ spot }) => told.push(`click ${spot.map((part) => part.toFixed(2)).join()}`),
        }),
      },
      {
        name: 'pen',
        help: '',
        make: () => ({
          turns: false,
          offered: () => wanted.value !== null,
          calledFor: () => wanted.value,
          onEnter: () => void told.push('enter'),
          onExit: () => void told.push('exit'),
          onPointerDown: ({ adds }) => !!told.push(`down ${adds}`),
          onPointerMove: () => void told.push('move'),
          onPointerUp: () => void told.push('up'),
        }),
      },
    ]
    const scope = effectScope()
    const tools = scope.run(() => useTools(stage, kinds))!
    useView().tool = 'click'
    told = []
    tools.press(at(100, 50))
    tools.release(at(102, 50))
    tools.press(at(100, 50))
    tools.release(at(140, 50))
    tools.press(at(1, 1, { button: 2 }))
    tools.release(at(1, 1, { button: 2 }))
    expect(told).toEqual(['click 0.02,0.00'])
    wanted.value = 'a card'
    await nextTick()
    expect(useView().tool).toBe('pen')
    await nextTick()
    told = []
    tools.press(at(10, 10, { shiftKey: true }))
    tools.move(at(20, 20))
    tools.release(at(20, 20))
    expect(told).toEqual(['down true', 'captured', 'move', 'up'])
    wanted.value = null
    await nextTick()
    await nextTick()
    expect(useView().tool).toBe('click')
    expect(told.slice(-2)).toEqual(['exit', 'turns true'])
    scope.stop()
  })
})
