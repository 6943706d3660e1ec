import fc from 'fast-check'

// Property tests draw the same cases every time, so that what fails is what was changed; `npm run properties` draws others.
fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(process.env.PROPERTY_SEED ?? 20260118) })
