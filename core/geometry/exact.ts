/**
 * Trigonometry from plain arithmetic. The language leaves the last bit of Math.sin and its kin to each engine; a
 * rehearsal must give the same hash in every one, so the core uses these instead. The kernels are the polynomials of
 * fdlibm (Sun Microsystems 1993), good to under two units in the last place for |x| < 10⁵ rad.
 */

const PI_2_HIGH = 1.5707963267341256
const PI_2_LOW = 6.077100506506192e-11

function kernelSin(x: number): number {
  const z = x * x
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)))
  return x + z * x * (-1.66666666666666324348e-1 + z * r)
}

function kernelCos(x: number): number {
  const z = x * x
  const r =
    4.16666666666666019037e-2 +
    z *
      (-1.38888888888741095749e-3 +
        z *
          (2.48015872894767294178e-5 +
            z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 - z * 1.13596475577881948265e-11))))
  return 1 - (0.5 * z - z * z * r)
}

/** Sine of an angle in radians. */
export function sin(x: number): number {
  const n = Math.round(x / (Math.PI / 2))
  const y = x - n * PI_2_HIGH - n * PI_2_LOW
  const quarter = ((n % 4) + 4) % 4
  if (quarter === 0) return kernelSin(y)
  if (quarter === 1) return kernelCos(y)
  return quarter === 2 ? -kernelSin(y) : -kernelCos(y)
}

/** Cosine of an angle in radians. */
export function cos(x: number): number {
  const n = Math.round(x / (Math.PI / 2))
  const y = x - n * PI_2_HIGH - n * PI_2_LOW
  const quarter = ((n % 4) + 4) % 4
  if (quarter === 0) return kernelCos(y)
  if (quarter === 1) return -kernelSin(y)
  return quarter === 2 ? -kernelCos(y) : kernelSin(y)
}

/** Tangent of an angle in radians. */
export const tan = (x: number): number => sin(x) / cos(x)

const ATAN = [
  3.33333333333329318027e-1, -1.99999999998764832476e-1, 1.42857142725034663711e-1, -1.1111110405462355788e-1,
  9.09088713343650656196e-2, -7.69187620504482999495e-2, 6.66107313738753120669e-2, -5.83357013379057348645e-2,
  4.97687799461593236017e-2, -3.6531572744216915527e-2, 1.62858201153657823623e-2,
]

function kernelAtan(x: number): number {
  const z = x * x
  let sum = 0
  for (let i = ATAN.length - 1; i >= 0; i--) sum = ATAN[i] + z * sum
  return x - x * z * sum
}

/** Arc tangent, radians within (−π/2, π/2). */
export function atan(x: number): number {
  const a = Math.abs(x)
  let value: number
  if (a < 0.4375) value = kernelAtan(a)
  else if (a < 0.6875) value = 4.63647609000806093515e-1 + kernelAtan((2 * a - 1) / (2 + a))
  else if (a < 1.1875) value = 7.85398163397448278999e-1 + kernelAtan((a - 1) / (a + 1))
  else if (a < 2.4375) value = 9.82793723247329054082e-1 + kernelAtan((a - 1.5) / (1 + 1.5 * a))
  else value = 1.570796326794896558 + kernelAtan(-1 / a)
  return x < 0 ? -value : value
}

/** The angle of the direction (x, y) from east, radians within (−π, π]; 0 for (0, 0). */
export function atan2(y: number, x: number): number {
  if (x > 0) return atan(y / x)
  if (x < 0) return y >= 0 ? atan(y / x) + Math.PI : atan(y / x) - Math.PI
  if (y === 0) return 0
  return y > 0 ? Math.PI / 2 : -Math.PI / 2
}

/** Length of (x, y): the plain root, which every engine rounds alike. */
export const hypot = (x: number, y: number): number => Math.sqrt(x * x + y * y)

/** Natural logarithm of a number greater than 0: by the series of its area tangent near 1, halved or doubled to there. */
export function log(x: number): number {
  let m = x
  let halved = 0
  while (m > Math.SQRT2) {
    m /= 2
    halved++
  }
  while (m < Math.SQRT1_2) {
    m *= 2
    halved--
  }
  const s = (m - 1) / (m + 1)
  const s2 = s * s
  let term = s
  let sum = 0
  for (let k = 1; k < 40; k += 2) {
    sum += term / k
    term *= s2
  }
  return 2 * sum + halved * Math.LN2
}

/** e to the power of x, by its series over a small part of x squared up again; right to some 13 digits for |x| up to 10. */
export function exp(x: number): number {
  const small = x / 256
  let term = 1
  let sum = 1
  for (let k = 1; k <= 10; k++) {
    term *= small / k
    sum += term
  }
  for (let k = 0; k < 8; k++) sum *= sum
  return sum
}
