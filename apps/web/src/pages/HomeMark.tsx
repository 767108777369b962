import './home-mark.css';
import { Tooltip } from '@mantine/core';
import { Link } from 'react-router';

/** The name of the workshop at the head of a page, leading back to the Shelf. */
export function HomeMark() {
  return (
    <Tooltip label="Back to the Shelf">
      <Link to="/" className="home-mark">
        Yesca
      </Link>
    </Tooltip>
  );
}
