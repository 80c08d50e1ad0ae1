import { Box, Flex, Progress, Text } from '@chakra-ui/react';
import type { StoredCalibration } from '@isochron/core/schema';
import { now } from '@isochron/core/schema';
import { useRef, useState } from 'react';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { playerMessage } from '../../app/report-error';
import { useDates } from '../../app/use-dates';
import { type LoopbackKind, runCalibration } from '../../audio/run-calibration';

const KINDS = [
  { value: 'microphone' as const, name: 'the microphone' },
  { value: 'virtual' as const, name: 'the virtual loopback, to try it' },
];

const WALK = [
  'Headphones: hold one side against the microphone. Loudspeaker: put the microphone where it will stand.',
  'Keep the click moderately loud and the room quiet.',
  'Begin, and wait for ten short sounds: about ten seconds.',
];

/** Walks through the latency calibration and lists what was measured. */
export const CalibrationSettings = () => {
  const { settings, change } = useSettings();
  const { day } = useDates();
  const [kind, setKind] = useState<LoopbackKind>('microphone');
  const [share, setShare] = useState<number | null>(null);
  const [message, setMessage] = useState('');
  const [trouble, setTrouble] = useState('');
  const stop = useRef<AbortController | null>(null);

  const begin = async () => {
    const controller = new AbortController();
    stop.current = controller;
    setShare(0);
    setMessage('');
    setTrouble('');
    try {
      const outcome = await runCalibration({ kind, settings, signal: controller.signal, onProgress: setShare });
      const { calibration, input, output } = outcome;
      if (!calibration.ok) {
        setTrouble(calibration.sentence);
        return;
      }
      const stored: StoredCalibration = {
        input,
        output,
        latencyS: calibration.latencyS,
        spreadMs: calibration.spreadMs,
        measuredAt: now().toISOString(),
      };
      const others = settings.calibrations.filter((one) => one.input !== input || one.output !== output);
      await change({ calibrations: [stored, ...others] });
      setMessage(
        `${(calibration.latencyS * 1000).toFixed(1)} ms, the same to within ${calibration.spreadMs.toFixed(2)} ms over ${calibration.found} sounds.`,
      );
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setTrouble(playerMessage(error));
    } finally {
      setShare(null);
    }
  };

  const running = share !== null;
  return (
    <>
      <Text maxWidth="80ch">
        A click takes a while to leave the computer, and a note to come in. Until that is measured, placement is shown as
        relative: early and late are told from your own average. Spread and evenness need no calibration.
      </Text>
      <Box as="ol" listStyleType="decimal" paddingLeft="24px" marginY="10px" maxWidth="80ch">
        {WALK.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </Box>
      <Flex gap="26px" align="flex-end" flexWrap="wrap">
        <ChoiceField<LoopbackKind> label="Back in through" value={kind} choices={KINDS} onChange={setKind} />
        {running ? (
          <Action quiet onClick={() => stop.current?.abort()}>
            Stop measuring
          </Action>
        ) : (
          <Action onClick={() => void begin()}>Measure the delay</Action>
        )}
        {running && (
          <Progress.Root value={Math.round(share * 100)} width="260px" size="sm" marginBottom="12px">
            <Progress.Label fontSize="16px">Listening …</Progress.Label>
            <Progress.Track background="rule">
              <Progress.Range background="now" />
            </Progress.Track>
          </Progress.Root>
        )}
      </Flex>
      <Notice>{trouble}</Notice>
      <Text role="status" fontSize="20px" fontFamily="heading" minHeight="1.6em" data-testid="calibration-result">
        {message}
      </Text>
      {settings.calibrations.length > 0 && (
        <Box as="ul" aria-label="Measured delays">
          {settings.calibrations.map((one) => (
            <Flex as="li" key={`${one.input}/${one.output}`} gap="14px" align="center" flexWrap="wrap">
              <Text>
                {(one.latencyS * 1000).toFixed(1)} ms from “{one.output}” back through “{one.input}”, {day(one.measuredAt)}.
              </Text>
              <Action
                quiet
                fontSize="15px"
                onClick={() => void change({ calibrations: settings.calibrations.filter((other) => other !== one) })}
              >
                Forget
              </Action>
            </Flex>
          ))}
        </Box>
      )}
      <Text color="quiet" fontSize="16px" maxWidth="80ch" marginTop="6px">
        A delay holds for one pair of devices. With another microphone or other headphones placement is relative again until you
        measure anew.
      </Text>
    </>
  );
};
