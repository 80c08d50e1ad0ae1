/**
 * Answers a worker's messages with a handler that is still being loaded: the measuring core waits for its WebAssembly, and
 * messages that come in the meantime must not be lost. Order is kept.
 */
export const serve = <Message>(load: () => Promise<(message: Message) => void>): void => {
  const loaded = load();
  self.onmessage = async ({ data }: MessageEvent<Message>) => (await loaded)(data);
};
