import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { moveScan } from '@larder/core/stock/moving';
import { BottomBar } from '../../kit/BottomBar';
import { Choice } from '../../kit/Field';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useScan } from '../../kit/scan';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { MoveSheet } from './MoveSheet';

/** Shelf move: the bin where goods lie, the goods, the bin where they go; by scanning these three, or by typing. */
export function MovePage() {
  useTitle('Shelf move');
  const { siteId } = useSite();
  const [search] = useSearchParams();
  const { data: bins, error } = useBinsQuery({ query: { siteId } });
  const [fromId, setFromId] = useState<number | null>(Number(search.get('from')) || null);
  const [said, setSaid] = useState<string | null>(null);
  // Until it is known which bins there are, no scan is taken.
  if (!bins) return <Waiting error={error} />;
  const rows = bins.rows.filter(({ retired }) => !retired);
  const from = rows.find(({ id }) => id === fromId) ?? null;
  const begin = (id: number | null, words: string | null = null) => {
    setFromId(id);
    setSaid(words);
  };
  return (
    <Stack sx={{ maxWidth: 900 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>Shelf move</h1>
        <StockWays />
      </PageHead>
      <Card pad component="div">
        <Choice
          label="From bin"
          none="Scan or choose it"
          value={fromId === null ? '' : String(fromId)}
          onChange={(chosen) => begin(Number(chosen) || null)}
          options={rows.map(({ id, code, siteName }) => ({ value: String(id), label: `${code} (${siteName})` }))}
        />
      </Card>
      {from ? (
        <MoveSheet key={from.id} from={from} bins={rows} said={said} say={setSaid} begin={begin} />
      ) : (
        <>
          <FirstScan bins={rows} begin={begin} say={setSaid} />
          {said === null ? null : <Notice role="status">{said}</Notice>}
          <Card state component="p">
            Scan the bin where the goods lie, then the goods, then the bin where they go.
          </Card>
          <BottomBar hint="A bin, the goods, a bin" />
        </>
      )}
    </Stack>
  );
}

interface FirstScanProps {
  bins: Parameters<typeof moveScan>[2];
  begin: (id: number) => void;
  say: (words: string) => void;
}

/** Takes the first bin that is scanned. */
function FirstScan({ bins, begin, say }: FirstScanProps) {
  useScan((code) => {
    const scan = moveScan(null, [], bins, code);
    if (scan.does === 'from') begin(scan.bin.id);
    else if (scan.does === 'nothing') say(scan.said);
    return scan.does === 'nothing' ? 'refused' : true;
  });
  return null;
}
