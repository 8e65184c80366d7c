import NativeSelect from '@mui/material/NativeSelect';
import { grantedAt } from '@larder/contract/rights';
import { useMeQuery } from '../shared/me';
import { useReferenceQuery } from '../shared/reference';
import { useSite } from '../shared/site';

/** The sites that this person may look at. */
export function useSitesSeen(): { id: number; name: string }[] {
  const { data: reference } = useReferenceQuery({});
  const { data: me } = useMeQuery({});
  return (reference?.sites ?? []).filter(({ id }) => me && grantedAt(me.grants, 'look', id));
}

/** Which site the pages are about. */
export function SiteChoice() {
  const { siteId, choose } = useSite();
  const sites = useSitesSeen();
  return (
    <NativeSelect
      variant="standard"
      disableUnderline
      inputProps={{ 'aria-label': 'Site' }}
      value={siteId ?? ''}
      onChange={(event) => choose(Number(event.target.value) || undefined)}
      sx={{ fontWeight: 600 }}
    >
      <option value="">All sites</option>
      {sites.map((site) => (
        <option key={site.id} value={site.id}>
          {site.name}
        </option>
      ))}
    </NativeSelect>
  );
}
