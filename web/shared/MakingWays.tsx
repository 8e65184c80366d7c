import { NavWays } from '../kit/NavWays';

/** The ways into what is made. */
export const MakingWays = () => (
  <NavWays
    label="Making"
    ways={[
      ['/making/orders', 'Work orders'],
      ['/making/board', 'By day'],
      ['/making/can-make', 'Can be made'],
      ['/making/apart', 'Taken apart'],
      ['/making/boms', 'Bills of materials'],
    ]}
  />
);
