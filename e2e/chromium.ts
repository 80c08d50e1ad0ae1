/** Launch options for Debian's Chromium, without its own network traffic; `microphoneFile` is what its microphone hears. */
export const chromiumWith = (microphoneFile?: string) => ({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--autoplay-policy=no-user-gesture-required',
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
    ...(microphoneFile ? [`--use-file-for-fake-audio-capture=${microphoneFile}`] : []),
  ],
});
