import { NavWays } from '../../kit/NavWays';

/** The ways into planning. */
export const PlanningWays = () => (
  <NavWays
    label="Planning"
    ways={[
      ['/planning', 'Top up'],
      ['/planning/levels', 'Levels'],
      ['/planning/low', 'Running low'],
      ['/planning/events', 'Events'],
    ]}
  />
);
