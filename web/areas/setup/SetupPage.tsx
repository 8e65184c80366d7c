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
    <div className="stack">
      <h1>Setup</h1>
      <div className="columns">
        <Sites />
        <Parties />
        <div className="stack">
          <Categories />
          <Units />
          <Attributes />
        </div>
      </div>
      <BottomBar hint="A site first, then its bins; then suppliers, customers and items">
        <Link className="button" to="/import?kind=suppliers">
          Bring in a file
        </Link>
        <Link className="button" to="/post">
          Post room
        </Link>
      </BottomBar>
    </div>
  );
}
