/**
 * What was typed and did not fit when it was left, by what it is of: it stands there again when one comes back to it,
 * until the screen is left.
 */
export const unfit = new Map<string, unknown>();
