import * as Comlink from 'comlink'
import { analyse, gap, previewPlan } from '@climber/core'

const core = { analyse, gap, previewPlan }
export type CoreWorker = typeof core
Comlink.expose(core)
