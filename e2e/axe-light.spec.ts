import { findsNothing } from './axe'

findsNothing('light')
