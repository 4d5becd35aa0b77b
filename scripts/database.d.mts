export function startDatabase(
  folder: string,
  options?: { quick?: boolean; keep?: boolean; say?: (what: string) => void },
): Promise<{ url: string; pid: number; stop(): Promise<void> }>
export function secretIn(folder: string, name: string): string
