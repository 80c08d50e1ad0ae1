/** What is said while a take is played that the browser's storage does not take: of the take, or of its sound alone. */
export const notKeptWords = (what: 'take' | 'recording'): string =>
  `The browser does not keep this ${what}: its storage is full, or closed to this page. It goes straight to the server when you stop. Leave this page open until the take is in the Ledger.`;
