import type { Settings, StoredCalibration } from '@isochron/core/schema';

/** The name of the microphone that a stream comes from. */
export const inputName = (stream: MediaStream): string => stream.getAudioTracks()[0]?.label || 'microphone';

/** The name of the loudspeaker or headphones that the system plays to, as far as the browser tells. */
export const outputName = async (): Promise<string> => {
  const devices = await navigator.mediaDevices.enumerateDevices();
  const outputs = devices.filter((device) => device.kind === 'audiooutput');
  return (outputs.find((device) => device.deviceId === 'default') ?? outputs[0])?.label || 'system output';
};

/** The calibration that holds for an input and an output; null where either was changed since. */
export const calibrationOf = (settings: Settings, input: string, output: string): StoredCalibration | null =>
  settings.calibrations.find((one) => one.input === input && one.output === output) ?? null;
