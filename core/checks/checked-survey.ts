import type { Level, PatchOp } from '@tidytrail/core/level'
import { Survey, type SurveyProgress, type TileAid } from '@tidytrail/core/survey'
import type { Finding } from './finding'
import { CheckRunner } from './runner'

/** A survey with the findings of all checks, kept up to date with it. */
export class CheckedSurvey extends Survey {
  findings: readonly Finding[] = []
  private runner = new CheckRunner();

  override *updating(level: Level, patch?: readonly PatchOp[], aid?: TileAid): Generator<SurveyProgress> {
    yield* super.updating(level, patch, aid)
    const { where, touched } = this.takeChanges()
    this.findings = this.runner.run(this.view!, where, touched)
  }

  /** Brings everything up to date at once, and tells what the checks find. */
  override update(level: Level, patch?: readonly PatchOp[]): readonly Finding[] {
    super.update(level, patch)
    return this.findings
  }

  /**
   * Tries something on copies of the level, and is afterwards as it was: what is worked out in between is undone.
   * @param trial gets the level and the findings as they are, and may update the survey as it likes
   */
  apart<T>(trial: (level: Level, findings: readonly Finding[]) => T): T {
    const { level, findings } = this
    if (!level) throw new Error('A survey has to know a level before something can be tried on it.')
    const back = this.remember()
    try {
      return trial(level, findings)
    } finally {
      if (this.level !== level) {
        back()
        this.update(level)
      }
      this.findings = findings
    }
  }

  /** Runs every check anew, whatever was seen before. */
  recheck(): readonly Finding[] {
    if (this.view) {
      this.runner = new CheckRunner()
      this.findings = this.runner.run(this.view, 'everywhere')
    }
    return this.findings
  }
}
