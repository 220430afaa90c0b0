export const CHROMIUM_PATH: string;
export const CHROMIUM_ARGS: string[];
