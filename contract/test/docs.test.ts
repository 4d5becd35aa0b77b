import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'

const root = process.cwd()
const pages = [
  'README.md',
  'CONTRIBUTING.md',
  ...readdirSync(path.join(root, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
]
/** Where a path that is named without its package may stand. */
const bases = [
  '',
  'core/src',
  'server/src',
  'web/src',
  'contract/src',
  'scripts',
  'core/src/candidate',
  'docs',
]
/** Every file's own name, for those that are named alone. */
const names = new Set(
  execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: root, encoding: 'utf8' })
    .split('\n')
    .map((file) => path.basename(file)),
)
const read = (page: string) => readFileSync(path.join(root, page), 'utf8')

describe('what the pages name', () => {
  it.each(pages)('%s: every file, folder and link is there', (page) => {
    const text = read(page)
    const named = [...text.matchAll(/`([\w.@-]+(?:\/[\w.@-]+)*\/?)`/g)]
      .map(([, name]) => name!)
      .filter(
        (name) =>
          /\/|\.(ts|mjs|vue|css)$/.test(name) && !name.startsWith('.data') && !/^@?[\w-]+$/.test(name),
      )
      .filter((name) => !/^[\w-]+\.[a-z]+$/.test(name) || /\.(ts|mjs|vue|css)$/.test(name))
    const links = [...text.matchAll(/\]\(((?!https?:)[^)#]+)\)/g)].map(([, link]) =>
      path.join(path.dirname(page), link!),
    )
    const there = (name: string) =>
      name.includes('/') ? bases.some((base) => existsSync(path.join(root, base, name))) : names.has(name)
    const missing = named.filter((name) => !there(name))
    expect(missing.filter((name) => !/^(text|image)\//.test(name))).toEqual([])
    expect(links.filter((link) => !existsSync(path.join(root, link)))).toEqual([])
  })
  it.each(pages)('%s: every npm command is there', (page) => {
    const { scripts } = JSON.parse(read('package.json')) as { scripts: Record<string, string> }
    const asked = [...read(page).matchAll(/npm run ([\w-]+)/g)].map(([, name]) => name!)
    expect(asked.filter((name) => !scripts[name])).toEqual([])
  })
})
