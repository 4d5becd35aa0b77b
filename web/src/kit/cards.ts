import type { Directive } from 'vue'

/** Gives each cell the name of its column, to stand beside it where a narrow page makes cards of the rows (kit.css). */
function name(table: HTMLTableElement): void {
  const heads = [...(table.tHead?.rows[0]?.cells ?? [])].map((head) => head.textContent.trim())
  for (const row of [...table.tBodies].flatMap((body) => [...body.rows])) {
    let column = 0
    for (const cell of row.cells) {
      const words = cell.tagName === 'TD' && cell.colSpan === 1 ? heads[column] : ''
      if (words) cell.dataset['label'] = words
      else delete cell.dataset['label']
      column += cell.colSpan
    }
  }
}

/** `v-cards`: a table whose rows become cards on a phone. */
export const vCards: Directive<HTMLTableElement> = { mounted: name, updated: name }
