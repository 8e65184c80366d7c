import Button from '@mui/material/Button';
import { Columns, Stack } from '../../kit/layout';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useTitle } from '../../kit/title';
import { Attributes } from './Attributes';
import { Categories } from './Categories';
import { Units } from './Units';
import { Sites } from './Sites';
import { Parties } from './Parties';

/** Sites and their bins, suppliers and customers, categories. */
export function SetupPage() {
  useTitle('Setup');
  return (
    <Stack>
      <h1>Setup</h1>
      <Columns>
        <Sites />
        <Parties />
        <Stack>
          <Categories />
          <Units />
          <Attributes />
        </Stack>
      </Columns>
      <BottomBar hint="A site first, then its bins; then suppliers, customers and items">
        <Button component={Link} to="/import?kind=suppliers">
          Import a file
        </Button>
        <Button component={Link} to="/post">
          Post room
        </Button>
      </BottomBar>
    </Stack>
  );
}
