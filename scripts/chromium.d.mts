/** How Chromium is started here. */
export const chromium: { executablePath: string | undefined; args: string[] }
