import { Flex, Input, Text } from '@chakra-ui/react';
import { localDay, now, type PassageSummary } from '@isochron/core/schema';
import { useRef, useState } from 'react';
import { exportAddress, getNotebook, getPractice, postLog } from '../../api/client';
import { refreshAll } from '../../api/queries/upkeep';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Part } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { saveAs } from '../../app/save-as';

/** Loaded when something is taken out or read in. */
const openFormats = () => import('@isochron/core/open-formats');
const SHOWN_REFUSED = 5;

/** Days, notebook and everything in open formats; and a log that was kept on paper read in. */
export const TakeOutPart = ({ passage, passages }: { passage: PassageSummary; passages: readonly PassageSummary[] }) => {
  const { settings } = useSettings();
  const [said, setSaid] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const titleOf = (id: string) => passages.find((one) => one.id === id)?.title ?? id;
  const today = localDay(now());
  const trying = (work: () => Promise<void>) => () => {
    setSaid('');
    work().catch((error: Error) => setSaid(playerMessage(error)));
  };
  const days = () => getPractice({});
  const daysCsv = trying(async () => {
    const { practiceCsv } = await openFormats();
    saveAs(`isochron-days-${today}.csv`, 'text/csv', practiceCsv((await days()).days, titleOf));
  });
  const daysJson = trying(async () => {
    saveAs(`isochron-days-${today}.json`, 'application/json', JSON.stringify(await days(), null, 2));
  });
  const notebook = trying(async () => {
    const { notebookText } = await openFormats();
    saveAs(`isochron-notebook-${today}.txt`, 'text/plain', notebookText(await getNotebook(), titleOf));
  });
  const readLog = (chosen: File) =>
    trying(async () => {
      const { readTempoLog } = await openFormats();
      const { tempos, refused } = readTempoLog(await chosen.text(), settings.dates === 'day-first');
      const { added } = await postLog(passage.id, tempos);
      await refreshAll();
      const known = tempos.length - added;
      const named = refused.slice(0, SHOWN_REFUSED).map(({ line, why }) => `line ${line}: ${why}`);
      const more = refused.length > named.length ? ` and ${refused.length - named.length} more` : '';
      setSaid(
        [
          `${added} ${added === 1 ? 'day is' : 'days are'} in the Ledger of ${passage.title} now.`,
          ...(known > 0 ? [`${known} ${known === 1 ? 'was' : 'were'} there already.`] : []),
          ...(named.length > 0 ? [`Not read: ${named.join('; ')}${more}.`] : []),
        ].join(' '),
      );
    })();
  return (
    <Part title="Export" onScreen>
      <Flex gap="12px" flexWrap="wrap">
        <Action quiet onClick={daysCsv}>
          All days as CSV
        </Action>
        <Action quiet onClick={daysJson}>
          All days as JSON
        </Action>
        <Action quiet onClick={notebook}>
          The notebook as text
        </Action>
        <Action quiet asChild>
          <a href={exportAddress} download>
            Every take (ZIP)
          </a>
        </Action>
        <Action quiet onClick={() => file.current?.click()}>
          Read a log in (CSV) …
        </Action>
        <Input
          ref={file}
          type="file"
          accept=".csv,.txt,text/csv"
          aria-label="A log as CSV"
          display="none"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            if (chosen) readLog(chosen);
            event.target.value = '';
          }}
        />
      </Flex>
      <Text color="quiet" fontSize="16px" maxWidth="80ch" marginTop="6px">
        A log of {passage.title} has a column of days and one of tempos that were clean, and may have one of notes. Each line
        becomes a take without repetitions; read in twice, it is there once. The ZIP holds every take and note as JSON and CSV.
      </Text>
      <Text role="status" maxWidth="80ch" data-testid="taken-out">
        {said}
      </Text>
    </Part>
  );
};
