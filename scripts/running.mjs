import { randomBytes } from 'node:crypto'
import { linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** When a process began, in the kernel's own count; with its id it names one process for good. Undefined where it is gone. */
export function begun(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    // The name stands in brackets and may hold anything; the 22nd field counts from before it.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    // Dead, and only not yet fetched by whoever started it.
    return fields[0] === 'Z' ? undefined : fields[19]
  } catch {
    return undefined
  }
}

/** Whether the process that wrote this down still runs, and not another that has its id by now. */
const runs = ({ pid, since }) =>
  Number.isInteger(pid) && begun(pid) !== undefined && begun(pid) === String(since)

/** A file that is there whole or not at all, however its writing ends. */
export function writeWhole(file, text) {
  const aside = `${file}.${process.pid}-${randomBytes(3).toString('hex')}`
  try {
    writeFileSync(aside, text, { mode: 0o600, flush: true })
    renameSync(aside, file)
  } catch (error) {
    // A full disk: nothing half is left behind.
    rmSync(aside, { force: true })
    throw error
  }
}

const read = (file) => {
  try {
    const found = JSON.parse(readFileSync(file, 'utf8'))
    return typeof found === 'object' && found !== null ? found : {}
  } catch {
    return {}
  }
}

/**
 * Takes a data folder for this process alone. Returns how to give it back, or who has it. What a process that is gone, or was
 * killed in the middle of writing, left behind is taken over.
 */
export function take(folder, url) {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = path.join(folder, 'running.json')
  const own = `${file}.${process.pid}-${randomBytes(3).toString('hex')}`
  writeFileSync(own, JSON.stringify({ pid: process.pid, since: begun(process.pid), url }), {
    mode: 0o600,
    flush: true,
  })
  try {
    for (;;) {
      try {
        linkSync(own, file)
        return { free: () => rmSync(file, { force: true }) }
      } catch (error) {
        if (error.code !== 'EEXIST') throw error
      }
      const other = read(file)
      if (runs(other)) return { taken: other.url ?? 'by another process' }
      // Moved away first: where somebody else took the folder in between, it is theirs and goes back.
      const stale = `${own}.stale`
      try {
        renameSync(file, stale)
      } catch (error) {
        if (error.code === 'ENOENT') continue
        throw error
      }
      const moved = read(stale)
      if (runs(moved)) {
        renameSync(stale, file)
        return { taken: moved.url ?? 'by another process' }
      }
      rmSync(stale, { force: true })
    }
  } finally {
    rmSync(own, { force: true })
  }
}

/** Milliseconds to wait before what ended is started again: twice as long each time it did not even begin, up to half a minute. */
export class Patience {
  #wait = 100
  /** It began to work. */
  good() {
    this.#wait = 100
  }
  next() {
    this.#wait = Math.min(30_000, this.#wait * 2)
    return this.#wait
  }
}
