import * as Comlink from 'comlink'
import { analyse, previewPlan } from '@climber/core'

const core = { analyse, previewPlan }
export type CoreWorker = typeof core
Comlink.expose(core)
