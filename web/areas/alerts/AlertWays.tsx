import { NavWays } from '../../kit/NavWays';
import { useMay } from '../../shared/may';

/** The ways into alerts: mine, what I am told, and for those who set the business up what was told to whom. */
export const AlertWays = () => (
  <NavWays
    label="Alerts"
    ways={[['/alerts', 'Mine'], ['/alerts/settings', 'What I am told'], ...(useMay('setup.edit', null) ? ([['/alerts/all', 'Told to whom']] as const) : [])]}
  />
);
