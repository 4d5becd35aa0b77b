export function take(folder: string, url: string): { taken?: string; free?: () => void }
