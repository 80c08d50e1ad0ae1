import { chakra, Flex, Progress, Text } from '@chakra-ui/react';
import type { BackupState } from '@isochron/core/schema';
import { useRef, useState } from 'react';
import { backupAddress, exportAddress, putBackup } from '../../api/client';
import { refreshAll, useBackupState } from '../../api/queries/upkeep';
import { Action } from '../../app/Action';
import { ConfirmDialog } from '../../app/ConfirmDialog';
import { Notice } from '../../app/Notice';
import { playerMessage } from '../../app/report-error';

const DOING: Record<BackupState['doing'], string> = {
  nothing: '',
  'backing up': 'Writing the backup …',
  receiving: 'Taking in the backup …',
  restoring: 'Checking every file of it …',
};

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

const HowFar = ({ state }: { state: BackupState }) => (
  <Progress.Root value={state.ofBytes ? Math.min(100, (100 * state.doneBytes) / state.ofBytes) : null} width="300px" size="sm">
    <Progress.Label fontSize="16px">{DOING[state.doing]}</Progress.Label>
    <Progress.Track background="rule">
      <Progress.Range background="now" />
    </Progress.Track>
    <Text role="status" fontSize="16px">
      {megabytes(state.doneBytes)} of {megabytes(state.ofBytes)}
    </Text>
  </Progress.Root>
);

/** Everything as one file, and back. */
export const BackupSettings = () => {
  const { state, look } = useBackupState();
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState('');
  const [trouble, setTrouble] = useState('');
  const stop = useRef<AbortController | null>(null);

  const restore = async (chosen: File) => {
    const controller = new AbortController();
    stop.current = controller;
    setSaid('');
    setTrouble('');
    look();
    try {
      const { takes, recordings, before } = await putBackup(chosen, controller.signal);
      setSaid(
        `${takes} takes and ${recordings} recordings are restored. What was there before is kept in the folder ${before}.`,
      );
      setFile(null);
      await refreshAll();
    } catch (error) {
      setTrouble(controller.signal.aborted ? 'Stopped. Nothing was changed.' : playerMessage(error));
    } finally {
      stop.current = null;
      look();
    }
  };

  const isBusy = state !== null && state.doing !== 'nothing';
  return (
    <>
      <Text maxWidth="80ch">
        A backup is one ZIP file: the database (SQLite) and every recording (WAV), with a checksum of each. Keep it on another
        disk. Restoring one replaces all that is here; what is here now is kept aside.
      </Text>
      <Flex gap="14px" align="center" marginTop="12px" flexWrap="wrap">
        <Action asChild>
          <a href={backupAddress} download onClick={look}>
            Back up everything
          </a>
        </Action>
        <Action quiet asChild>
          <a href={exportAddress} download>
            All figures as JSON and CSV
          </a>
        </Action>
      </Flex>
      <Flex gap="14px" align="center" marginTop="14px" flexWrap="wrap">
        <chakra.label fontSize="16px">
          <Text fontWeight="600">A backup to restore</Text>
          <chakra.input
            type="file"
            accept=".zip,application/zip"
            onChange={(event) => setFile(event.target.files?.[0] ?? null)}
          />
        </chakra.label>
        {file && !isBusy && (
          <ConfirmDialog
            title="Put this backup in the place of everything?"
            trigger={<Action quiet>Restore it</Action>}
            confirm="Restore it"
            keep="Leave all as it is"
            onConfirm={() => void restore(file)}
          >
            {file.name} ({megabytes(file.size)}) is checked first. What is stored now is kept in a folder of its own.
          </ConfirmDialog>
        )}
        {isBusy && (
          <>
            <HowFar state={state} />
            {stop.current && (
              <Action quiet onClick={() => stop.current?.abort()}>
                Stop
              </Action>
            )}
          </>
        )}
      </Flex>
      {said && (
        <Text role="status" marginTop="10px">
          {said}
        </Text>
      )}
      <Notice>{trouble}</Notice>
    </>
  );
};
