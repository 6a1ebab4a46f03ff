import type { Response } from 'express';

/**
 * Sends a stored file. It is named by what it holds, so that it may be kept for good; and banks and recordings are packed
 * already: to pack them again takes longer than to send them.
 */
export function sendFile(path: string, response: Response): void {
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable, no-transform');
  response.type('application/octet-stream').sendFile(path, { dotfiles: 'allow' });
}
