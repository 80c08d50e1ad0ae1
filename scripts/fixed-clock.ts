/** The moment at which tests run, wherever and whenever they do: a Wednesday morning. `npm run test:days` sets others. */
export const TEST_MOMENT = process.env.ISOCHRON_NOW ?? '2026-11-25T10:00:00.000Z';
export const TEST_ZONE = process.env.TZ || 'UTC';

const beganMs = Date.now();

/** The moment of tests as it has run on since this program began: for a server that is started anew and shall not go back in time. */
export const laterMoment = (): string => new Date(Date.parse(TEST_MOMENT) + Date.now() - beganMs).toISOString();
