export const serverFile: string
/** What is asked for wins over what Climber would choose. */
export function serverEnvironment(environment: NodeJS.ProcessEnv): NodeJS.ProcessEnv
