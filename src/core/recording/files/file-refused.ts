/** A file that cannot be taken, and why. */
export class FileRefused extends Error {}
