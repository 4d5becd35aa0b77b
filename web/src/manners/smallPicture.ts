/** Letters of a picture's address that a card may carry, and the edge from which it is drawn smaller. */
const most = 200_000
const edges = [1200, 900, 640, 420]

/** A picture as an address that carries it, drawn smaller until it fits into a card. Throws an error for whoever chose it. */
export async function smallPicture(file: File): Promise<string> {
  const drawn = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name}: the browser cannot draw this file.`)
  })
  try {
    for (const edge of edges) {
      const scale = Math.min(1, edge / Math.max(drawn.width, drawn.height))
      const canvas = document.createElement('canvas')
      canvas.width = Math.max(1, Math.round(drawn.width * scale))
      canvas.height = Math.max(1, Math.round(drawn.height * scale))
      canvas.getContext('2d')!.drawImage(drawn, 0, 0, canvas.width, canvas.height)
      const address = canvas.toDataURL('image/webp', 0.85)
      if (address.length <= most) return address
    }
  } finally {
    drawn.close()
  }
  throw new Error(`${file.name} stays larger than 150 kB however small it is drawn; crop it.`)
}
