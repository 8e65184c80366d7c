import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fields, Stack, Ways } from '../kit/layout';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { keepView, KeptView } from '@larder/contract/lists';
import type { BodyOf } from '@larder/contract/endpoint';
import { useForgetViewMutation, useKeepViewMutation, useKeptViewsQuery } from './views';
import { refusalOf } from '../kit/draft';
import { Field } from '../kit/Field';

type List = BodyOf<typeof keepView>['list'];

/** Filters kept by name: the pinned ones stand beside the list's title, the others a click away. */
export function KeptViews({ list }: { list: List }) {
  const { pathname, search } = useLocation();
  const { data } = useKeptViewsQuery({});
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const views = (data?.rows ?? []).filter((view) => view.list === list);
  return (
    <Ways role="group" aria-label="Kept filters">
      {views
        .filter(({ pinned }) => pinned)
        .map((view) => (
          <Button key={view.id} component={Link} to={`${pathname}${view.search}`} aria-current={view.search === search ? 'page' : undefined}>
            {view.name}
          </Button>
        ))}
      <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        Kept filters{views.length > 0 ? ` ${views.length}` : ''}
      </Button>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Stack pad sx={{ width: 320 }} role="dialog" aria-label="Kept filters">
          {views.map((view) => (
            <ViewRow key={view.id} view={view} to={`${pathname}${view.search}`} />
          ))}
          {views.length === 0 ? <p className="quiet">None kept yet.</p> : null}
          <Keep list={list} search={search} />
        </Stack>
      </Popover>
    </Ways>
  );
}

function ViewRow({ view, to }: { view: KeptView; to: string }) {
  const [keep] = useKeepViewMutation();
  const [forget] = useForgetViewMutation();
  const { list, name, search, pinned } = view;
  return (
    <Box component="span" sx={{ display: 'flex', gap: 6, alignItems: 'center' }}>
      <Box component={Link} to={to} className="strong" sx={{ flex: 1 }}>
        {name}
      </Box>
      <Button size="small" onClick={() => void keep({ body: { list: list as List, name, search, pinned: !pinned } })}>
        {pinned ? 'Unpin' : 'Pin'}
      </Button>
      <Button size="small" onClick={() => void forget({ params: { id: view.id } })} aria-label={`Forget ${name}`}>
        Forget
      </Button>
    </Box>
  );
}

function Keep({ list, search }: { list: List; search: string }) {
  const [name, setName] = useState('');
  const [keep, keeping] = useKeepViewMutation();
  const { at } = refusalOf(keeping);
  const save = async () => {
    if (!(await keep({ body: { list, name, search, pinned: true } })).error) setName('');
  };
  return (
    <Fields
      component="form"
      sx={{ gridTemplateColumns: '1fr auto', alignItems: 'end' }}
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field label="Keep these filters as" value={name} onChange={setName} error={at('name')} />
      <Button type="submit">Keep</Button>
    </Fields>
  );
}
