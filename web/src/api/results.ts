/** Questions to a result and their answers, as the service describes them. */
import type { components } from './schema'

type Schemas = components['schemas']

export type LookQuery = NonNullable<Schemas['LookRequest']['queries']>[number]
export type LookAnswer = Schemas['LookState']['looks'][number]
export type Kind = Schemas['AttributeLook']['kind']
export type AttributeAbout = Schemas['AttributeAbout']
export type Summary = Schemas['SummaryLook']
export type MeshLook = Schemas['MeshLook']
export type DrawnMesh = Schemas['Drawn']
export type EdgesLook = Schemas['EdgesLook']
export type GroupsLook = Schemas['GroupsLook']
export type UvLook = Schemas['UvLook']
export type AttributeLook = Schemas['AttributeLook']
export type NormalsLook = Schemas['NormalsLook']
export type Rows = Schemas['RowsLook']
export type Spread = Schemas['Spread']
export type Check = Schemas['Defect']
export type Step = Schemas['Step']
export type LiveBlock = Schemas['LiveBlock']
export type LiveMark = Schemas['LiveMark']
export type Live = Schemas['LiveLook']
export type Why = Schemas['WhyLook']
export type WhyValue = Schemas['WhyValue']
export type Difference = Schemas['DifferenceLook']

export const KINDS = [
  'point',
  'edge',
  'corner',
  'face',
  'curve',
  'instance',
  'whole',
] as const satisfies readonly Kind[]

export type AnswerTo<What extends LookAnswer['what']> = Extract<LookAnswer, { what: What }>

/** Return the answer if it is the one that was asked for; null where there is no result, or it failed. */
export function answerTo<What extends LookAnswer['what']>(
  what: What,
  answer: LookAnswer | undefined | null,
): AnswerTo<What> | null {
  return answer?.what === what ? (answer as AnswerTo<What>) : null
}

/** Why a look could not be taken; empty if it was. */
export function troubleOf(answer: LookAnswer | undefined | null): string {
  return answer?.what === 'error' ? answer.error.message : ''
}
