/** Address of a stored file: a sample bank or a recording, named by its SHA-256. */
export const fileAddress = (hash: string): string => `/api/v1/files/${hash}`;
