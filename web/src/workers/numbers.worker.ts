import * as Comlink from 'comlink'
import { numbering } from './numbering'

Comlink.expose(numbering)
