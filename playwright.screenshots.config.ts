import config from './playwright.config'

/** Takes the pictures of docs/screenshots/ anew: `npm run screenshots`. */
export default { ...config, testIgnore: [], testMatch: 'screenshots.spec.ts' }
