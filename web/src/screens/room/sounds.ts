import { watch } from 'vue'
import type { useWorking } from './working'

let audio: AudioContext | undefined

/** A short tone: low for the time to leave an item, high for a bell. */
function tone(hertz: number, seconds: number): void {
  try {
    audio ??= new AudioContext()
    const oscillator = audio.createOscillator()
    const gain = audio.createGain()
    oscillator.frequency.value = hertz
    gain.gain.setValueAtTime(0.12, audio.currentTime)
    gain.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + seconds)
    oscillator.connect(gain).connect(audio.destination)
    oscillator.start()
    oscillator.stop(audio.currentTime + seconds)
  } catch {
    // A browser that makes no sound shows the same on the rail.
  }
}

/** What the rail shows by its tint, to be heard, where that was asked for. */
export function useSounds(working: ReturnType<typeof useWorking>, wanted: () => boolean): void {
  const { rail, left, part } = working
  const isOver = () => {
    const on = rail.value?.on
    return on !== undefined && on.leave !== null && on.spent >= on.leave
  }
  watch(isOver, (now) => now && wanted() && tone(330, 0.25))
  watch(
    () => left.value !== undefined && left.value <= 300 && (part.value?.part.seconds ?? 0) > 900,
    (now) => now && wanted() && tone(660, 0.4),
  )
  watch(
    () => rail.value?.next?.item,
    (now, before) => now !== undefined && before !== undefined && wanted() && tone(440, 0.2),
  )
}
