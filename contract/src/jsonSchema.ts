import { z } from 'zod'
import { ClimberFileShape } from './climberFile'

/** The Climber file as JSON Schema 2020-12. What JSON Schema cannot say (sums, circles) the reader checks besides. */
export const climberFileJsonSchema = (): object => ({
  $id: 'climber-file',
  title: 'Climber file',
  ...z.toJSONSchema(ClimberFileShape, { io: 'input', reused: 'ref' }),
})
