import type { Faction } from '@tidytrail/core/level'
import * as THREE from 'three'

/** The colours of the sheet, for things that stand on it. */
export interface Paper {
  readonly night: boolean
  readonly colour: Record<
    | 'paper'
    | 'sheet'
    | 'ink'
    | 'faded'
    | 'pine'
    | 'rust'
    | 'ochre'
    | 'lake'
    | 'plum'
    | 'alarm'
    | 'contour'
    | 'water'
    | 'desk',
    THREE.Color
  >
}

export function readPaper(): Paper {
  const style = getComputedStyle(document.documentElement)
  const of = (name: string) => new THREE.Color(style.getPropertyValue(`--${name}`).trim())
  return {
    night: document.documentElement.dataset.theme === 'night',
    colour: {
      paper: of('paper'),
      sheet: of('sheet'),
      ink: of('ink'),
      faded: of('faded'),
      pine: of('pine'),
      rust: of('rust'),
      ochre: of('ochre'),
      lake: of('lake'),
      plum: of('plum'),
      alarm: of('alarm'),
      contour: of('contour'),
      water: of('water'),
      desk: of('desk'),
    },
  }
}

/** Where the light comes from: the north-west, as on a shaded map. */
export const LIGHT = new THREE.Vector3(-0.5, 0.6, 0.9).normalize()

/** How what is drawn in a colour is marked with a second one, so that colours alone tell nothing apart. */
export interface Marked {
  readonly pattern: Faction['pattern']
  readonly second: THREE.Color
}
const PATTERNS: Record<Faction['pattern'], number> = { plain: 0, striped: 1, ringed: 2, dotted: 3 }

/**
 * Paper seen in that light: flat shades, no gloss. Sides are hatched by the light alone.
 * @param marked the pattern of an agent's drop, in its own measures: a metre wide, pointing along +x
 * @param faceted the geometry has no normals: each of its triangles is lit as it lies
 */
export function paperMaterial(
  colour: THREE.Color,
  ink: THREE.Color,
  marked?: Marked,
  faceted = false,
): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    side: THREE.DoubleSide,
    defines: faceted ? { FACETED: '' } : {},
    uniforms: {
      colour: { value: colour },
      ink: { value: ink },
      light: { value: LIGHT },
      pattern: { value: PATTERNS[marked?.pattern ?? 'plain'] },
      second: { value: marked?.second ?? colour },
    },
    vertexShader: `
      varying vec3 vNormalW;
      varying vec3 vWorld;
      varying vec3 vOwn;
      void main() {
        vOwn = position;
        vNormalW = normalize(mat3(modelMatrix) * normal);
        vec4 world = modelMatrix * vec4(position, 1.0);
        vWorld = world.xyz;
        gl_Position = projectionMatrix * viewMatrix * world;
      }`,
    fragmentShader: `
      uniform vec3 colour;
      uniform vec3 ink;
      uniform vec3 light;
      uniform int pattern;
      uniform vec3 second;
      varying vec3 vNormalW;
      varying vec3 vWorld;
      varying vec3 vOwn;
      float mark() {
        if (pattern == 1) return step(0.62, fract(vOwn.x * 1.5 + 0.2));
        if (pattern == 2) return step(abs(length(vOwn.xy) - 0.6), 0.14);
        if (pattern == 3) return step(length(fract(vOwn.xy * 1.6) - 0.5), 0.3);
        return 0.0;
      }
      void main() {
        #ifdef FACETED
          vec3 n = normalize(cross(dFdx(vWorld), dFdy(vWorld)));
        #else
          vec3 n = normalize(gl_FrontFacing ? vNormalW : -vNormalW);
        #endif
        float lit = dot(n, light);
        float shade = clamp(0.06 + 0.30 * (0.75 - lit), 0.0, 0.5);
        vec3 c = mix(mix(colour, second, mark()), ink, shade * 0.62);
        if (abs(n.z) < 0.5) {
          float along = vWorld.z * 2.2 + (vWorld.x + vWorld.y) * 2.2;
          float w = fwidth(along);
          float hatch = 1.0 - smoothstep(0.5 * w, 1.5 * w, abs(fract(along) - 0.5));
          c = mix(c, ink, hatch * 0.16 * (1.0 - smoothstep(0.2, 0.6, w)));
        }
        gl_FragColor = vec4(c, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/** Ground on paper: contours with every fifth stronger, and relief lit from the north-west. */
export function groundMaterial(paper: Paper, stepM: number): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    side: THREE.DoubleSide,
    uniforms: {
      paper: { value: paper.colour.paper },
      ink: { value: paper.colour.ink },
      line: { value: paper.colour.contour },
      light: { value: LIGHT },
      stepM: { value: stepM },
    },
    vertexShader: `
      varying vec3 vNormalW;
      varying vec3 vWorld;
      void main() {
        vNormalW = normalize(normal);
        vWorld = position;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: `
      uniform vec3 paper;
      uniform vec3 ink;
      uniform vec3 line;
      uniform vec3 light;
      uniform float stepM;
      varying vec3 vNormalW;
      varying vec3 vWorld;
      float contour(float every, float width) {
        float h = vWorld.z / every;
        float w = fwidth(h);
        if (w > 0.5 || w < 1e-5) return 0.0;
        float d = abs(fract(h - 0.5) - 0.5);
        return 1.0 - smoothstep((width - 0.5) * w, (width + 0.5) * w, d);
      }
      void main() {
        vec3 n = normalize(vNormalW);
        float shade = clamp(0.35 * (0.78 - dot(n, light)), 0.0, 0.4);
        vec3 c = mix(paper, ink, shade * 0.5);
        c = mix(c, line, contour(stepM, 0.7) * 0.75);
        c = mix(c, line, contour(stepM * 5.0, 1.2));
        gl_FragColor = vec4(c, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}
