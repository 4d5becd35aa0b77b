export function findProgram(...names: string[]): string | undefined
