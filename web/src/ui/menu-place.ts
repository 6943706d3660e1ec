/** Measures of a menu, pixels: its width, a line of it, its border and padding, and what stays free round it. */
const WIDE = 216
const LINE = 26
const RIM = 12
const FREE = 6

/**
 * Where in the window a menu is shown: above its button when it fits there, below it otherwise, or
 * where there is more room, as long as that room; never beyond the sides of the window.
 * @param button the box of its button in the window, pixels
 */
export function menuPlace(
  button: { readonly left: number; readonly top: number; readonly bottom: number },
  lines: number,
  width: number,
  height: number,
): Record<'left' | 'top' | 'bottom' | 'maxHeight', string> {
  const wanted = lines * LINE + RIM
  const [above, below] = [button.top - 2 * FREE, height - button.bottom - 2 * FREE]
  const up = wanted <= above || (wanted > below && above > below)
  const px = (n: number) => `${Math.max(0, Math.round(n))}px`
  return {
    left: px(Math.min(button.left, width - WIDE - FREE)),
    top: up ? 'auto' : px(button.bottom + FREE),
    bottom: up ? px(height - button.top + FREE) : 'auto',
    maxHeight: px(up ? above : below),
  }
}
