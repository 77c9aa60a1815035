export const LIGHT: string;
export function findBrowser(names?: readonly string[]): string | undefined;
