import { readFile } from 'node:fs/promises';
import { nowMs } from '@isochron/core/schema';
import type { RequestHandler } from 'express';

/** What a clock may differ by without having been set: the time between two looks at it. */
const SAME_MS = 1000;

/** Answers with the interface's page. Where the server's clock was set, the page is told, so that both have the same day. */
export const servePage =
  (file: string): RequestHandler =>
  async (_request, response) => {
    const aheadMs = nowMs() - Date.now();
    if (Math.abs(aheadMs) < SAME_MS) {
      response.sendFile(file, { dotfiles: 'allow' });
      return;
    }
    const page = await readFile(file, 'utf8');
    const clock = `<meta name="isochron-clock" content="${Math.round(aheadMs)}">`;
    response.type('html').send(page.replace('<head>', `<head>${clock}`));
  };
