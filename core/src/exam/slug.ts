/** A short name made of a title, unlike those taken. */
export function slugOf(title: string, taken: Iterable<string> = []): string {
  const used = new Set(taken)
  const plain = title
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 50)
    .replace(/-+$/, '')
  const base = plain || 'x'
  let slug = base
  for (let n = 2; used.has(slug); n++) slug = `${base}-${n}`
  return slug
}
