import { placesOf } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { placeWords } from './sayings'

/** Where a topic is treated, its first place in words; nothing where there is none. */
export function usePlaceOf(): (topic: string | undefined) => string {
  const workspace = useWorkspace()
  return (topic) => {
    const [first] = topic === undefined ? [] : placesOf(workspace.exam!, workspace.record!.materials, topic)
    return first ? placeWords(first) : ''
  }
}
