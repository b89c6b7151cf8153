import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';
import { useBrush } from '../../resources/ts/state/brush';
import { clock } from '../../resources/ts/state/frame';
import { useView } from '../../resources/ts/state/view';

// What is waited for may be long in coming while other checks have the processors.
configure({ asyncUtilTimeout: 15_000 });

// All files share one page, so that everything is loaded once: each test leaves it as it was.
const [view, brush] = [useView.getState(), useBrush.getState()];
afterEach(() => {
  cleanup();
  localStorage.clear();
  useView.setState(view, true);
  useBrush.setState(brush, true);
  clock.show(1);
});
