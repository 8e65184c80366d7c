import NativeSelect from '@mui/material/NativeSelect';
import { useSite } from '../shared/site';
import { useSitesSeen } from '../shared/sitesSeen';

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
