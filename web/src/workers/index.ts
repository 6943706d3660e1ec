/** The page's workers without their threads, for those who run them elsewhere. */
export { makeBreathe } from './breathe'
export { Crew } from './crew'
export { makeSurveyor } from './surveying'
export type { Surveyor, SurveyReport } from './surveyor.protocol'
export type { Tiler } from './tiler.protocol'
export { makeTiler } from './tiling'
