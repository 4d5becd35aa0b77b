/** How Chromium is started here. */
export const chromium: { executablePath: string; args: string[] }
