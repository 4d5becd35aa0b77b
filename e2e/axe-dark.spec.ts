import { findsNothing } from './axe'

// What the dark theme can change is colour alone.
findsNothing('dark', ['color-contrast'])
