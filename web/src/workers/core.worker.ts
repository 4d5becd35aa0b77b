import * as Comlink from 'comlink'
import { answering } from './answering'

Comlink.expose(answering)
