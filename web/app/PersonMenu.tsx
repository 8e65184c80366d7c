import Button from '@mui/material/Button';
import { lazy, Suspense, useState } from 'react';
import { useSite } from '../shared/site';
import { useSitesSeen } from '../shared/sitesSeen';

const PersonChoices = lazy(async () => ({ default: (await import('./PersonChoices')).PersonChoices }));

/** Who is signed in, and what they can choose for themselves; on a phone the site that is chosen stands beside the name. */
export function PersonMenu({ name, withSites }: { name: string; withSites: boolean }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { siteId } = useSite();
  const site = useSitesSeen().find(({ id }) => id === siteId)?.name ?? 'All sites';
  return (
    <>
      <Button
        variant="text"
        aria-haspopup="menu"
        aria-label={`Signed in as ${name}${withSites ? `, ${site}` : ''}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {withSites ? `${site}, ${name.split(' ')[0] ?? name}` : name}
      </Button>
      {anchor ? (
        <Suspense fallback={null}>
          <PersonChoices anchor={anchor} withSites={withSites} close={() => setAnchor(null)} />
        </Suspense>
      ) : null}
    </>
  );
}
