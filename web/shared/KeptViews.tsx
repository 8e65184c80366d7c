import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fields, Stack, Ways } from '../kit/layout';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { KeptList, KeptView } from '@larder/contract/lists';
import { useForgetViewMutation, useKeepViewMutation, useKeptViewsQuery } from './views';
import { explainName, viewName } from '../kit/address';
import type { ColumnLayout } from '../kit/columnLayout';
import { Check } from '../kit/Check';
import { refusalOf } from '../kit/draft';
import { Field } from '../kit/Field';

interface KeptViewsProps {
  list: KeptList;
  /** The columns as they are now, which are kept with the filters. */
  layout: ColumnLayout;
}

/** Filters and columns kept by name: the pinned ones stand beside the list's title, the others a click away. */
export function KeptViews({ list, layout }: KeptViewsProps) {
  const { pathname, search: asked } = useLocation();
  const search = withoutView(asked);
  const { data } = useKeptViewsQuery({});
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const views = (data?.rows ?? []).filter((view) => view.list === list);
  return (
    <Ways role="group" aria-label="Kept filters">
      {views
        .filter(({ pinned, mine }) => pinned && mine)
        .map((view) => (
          <Button key={view.id} component={Link} to={addressOf(pathname, view)} aria-current={view.search === search ? 'page' : undefined}>
            {view.name}
          </Button>
        ))}
      <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        Kept filters{views.length > 0 ? ` ${views.length}` : ''}
      </Button>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Stack pad sx={{ width: 320 }} role="dialog" aria-label="Kept filters">
          {views.map((view) => (
            <ViewRow key={view.id} view={view} to={addressOf(pathname, view)} />
          ))}
          {views.length === 0 ? <p className="quiet">None kept yet.</p> : null}
          <Keep list={list} search={search} layout={layout} />
        </Stack>
      </Popover>
    </Ways>
  );
}

/** What is asked, without the name under which it is kept and what is explained. */
function withoutView(search: string): string {
  const asked = new URLSearchParams(search);
  asked.delete(viewName);
  asked.delete(explainName);
  const text = asked.toString();
  return text === '' ? '' : `?${text}`;
}

const addressOf = (pathname: string, { id, search, layout }: KeptView): string =>
  layout === null ? `${pathname}${search}` : `${pathname}${search}${search === '' ? '?' : '&'}${viewName}=${id}`;

function ViewRow({ view, to }: { view: KeptView; to: string }) {
  const [keep] = useKeepViewMutation();
  const [forget] = useForgetViewMutation();
  const { list, name, search, pinned, shared, mine, person, layout } = view;
  return (
    <Box component="span" sx={{ display: 'flex', gap: 6, alignItems: 'center' }}>
      <Box component={Link} to={to} className="strong" sx={{ flex: 1 }}>
        {name}
      </Box>
      {mine ? (
        <>
          {shared ? <small className="quiet">for all</small> : null}
          <Button size="small" onClick={() => void keep({ body: { list: list as KeptList, name, search, pinned: !pinned, shared, layout } })}>
            {pinned ? 'Unpin' : 'Pin'}
          </Button>
          <Button size="small" onClick={() => void forget({ params: { id: view.id } })} aria-label={`Forget ${name}`}>
            Forget
          </Button>
        </>
      ) : (
        <small className="quiet">from {person}</small>
      )}
    </Box>
  );
}

function Keep({ list, search, layout }: KeptViewsProps & { search: string }) {
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const [keep, keeping] = useKeepViewMutation();
  const { at } = refusalOf(keeping);
  const save = async () => {
    if (!(await keep({ body: { list, name, search, pinned: true, shared, layout } })).error) setName('');
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
      <Field label="Keep these filters and columns as" value={name} onChange={setName} error={at('name')} />
      <Button type="submit">Keep</Button>
      <Check label="For everybody" checked={shared} onChange={setShared} />
    </Fields>
  );
}
