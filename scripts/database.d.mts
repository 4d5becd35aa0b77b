export function startDatabase(
  folder: string,
  options?: { quick?: boolean },
): Promise<{ url: string; pid: number; stop(): Promise<void> }>
