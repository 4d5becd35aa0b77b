export function startDatabase(
  folder: string,
  options?: { quick?: boolean; keep?: boolean; say?: (what: string) => void },
): Promise<{ url: string; pid: number; stop(): Promise<void> }>
