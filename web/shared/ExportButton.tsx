import type { BodyOf } from '@larder/contract/endpoint';
import type { exportFile } from '@larder/contract/exchange';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Stack } from '../kit/layout';
import { Check } from '../kit/Check';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import type { exportLists } from '@larder/contract/exchange';
import type { ItemFilter } from '@larder/contract/catalog';
import type { LotFilter } from '@larder/contract/lots';
import type { LowFilter } from '@larder/contract/runningLow';
import type { PastFilter, StockFilter } from '@larder/contract/stock';
import { useSite } from './site';
import { count } from '../kit/format';
import { Tabs } from '../kit/Tabs';
import { useFile, WorkProgress } from './work';
import { useExportFieldsQuery } from './exports';

type List = (typeof exportLists)[number];

interface Taken {
  list: List;
  /** What the file is called; as the list is, where nothing is said. */
  called?: string;
  /** What the list on screen is narrowed to; the file holds the same. */
  only?: {
    q?: string;
    itemId?: number | undefined;
    priceListId?: number | undefined;
    items?: ItemFilter;
    stock?: StockFilter;
    past?: PastFilter;
    lots?: LotFilter;
    low?: LowFilter;
    show?: BodyOf<typeof exportFile>['show'];
  };
}

/** Takes a list out as a file: which fields, in which order, as CSV or XLSX; the choice is kept for the next time. */
export function ExportButton({ list, called = list, only = {} }: Taken) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Export</Button>
      <Dialog open={open} onClose={() => setOpen(false)}>
        {open ? <ExportSheet list={list} called={called} only={only} close={() => setOpen(false)} /> : null}
      </Dialog>
    </>
  );
}

function ExportSheet({ list, called = list, only = {}, close }: Taken & { close: () => void }) {
  const { siteId } = useSite();
  const { data } = useExportFieldsQuery({ params: { list } });
  const [own, setOwn] = useState<string[] | null>(null);
  const [ownFormat, setFormat] = useState<'csv' | 'xlsx' | null>(null);
  const file = useFile();
  const fields = data?.fields ?? [];
  const chosen = (own ?? data?.chosen ?? fields.map(({ key }) => key)).filter((key) => fields.some((field) => field.key === key));
  const format = ownFormat ?? data?.format ?? 'csv';
  const toggle = (key: string) => setOwn(chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key]);
  const move = (key: string, by: number) => {
    const at = chosen.indexOf(key);
    const rest = chosen.filter((one) => one !== key);
    setOwn([...rest.slice(0, Math.max(0, at + by)), key, ...rest.slice(Math.max(0, at + by))]);
  };
  const take = async () => {
    if (await file.take(`/api/exchange/exports/${list}`, `${called}.${format}`, { fields: chosen.join(','), format, ...only, siteId })) close();
  };
  const narrowed = Object.values(only).some((part) => part !== undefined && part !== '' && part !== 'all');
  const rows = [...chosen.flatMap((key) => fields.filter((field) => field.key === key)), ...fields.filter(({ key }) => !chosen.includes(key))];
  return (
    <Stack pad sx={{ width: 420 }}>
      <DialogTitle>Export {called}</DialogTitle>
      {file.fault ? (
        <p className="late" role="alert">
          {file.fault}
        </p>
      ) : null}
      {narrowed ? <p className="quiet">Only what the list shows now, all its pages.</p> : null}
      <Box sx={{ maxHeight: 360, overflow: 'auto' }} tabIndex={0} role="group" aria-label="Fields">
        {rows.map(({ key, name }) => (
          <Box component="span" key={key} sx={{ display: 'flex', gap: 8, alignItems: 'center', height: 32 }}>
            <Check label={name} checked={chosen.includes(key)} onChange={() => toggle(key)} />
            {chosen.includes(key) ? (
              <>
                <Button size="small" aria-label={`Move ${name} up`} onClick={() => move(key, -1)}>
                  ↑
                </Button>
                <Button size="small" aria-label={`Move ${name} down`} onClick={() => move(key, 1)}>
                  ↓
                </Button>
              </>
            ) : null}
          </Box>
        ))}
      </Box>
      <Tabs
        label="As"
        options={[
          ['csv', 'CSV'],
          ['xlsx', 'XLSX'],
        ]}
        value={format}
        onChange={setFormat}
      />
      <WorkProgress of={file.key} what="rows" />
      <Box component="span" sx={{ display: 'flex', gap: 8, justifyContent: 'flex-end' }}>
        <Button onClick={close}>Leave it</Button>
        <Button variant="contained" disabled={chosen.length === 0 || file.key !== null} onClick={() => void take()}>
          Export {count(chosen.length, 'field')}
        </Button>
      </Box>
    </Stack>
  );
}
