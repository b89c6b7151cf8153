import { useRef, useState } from 'react';
import { whenReleased } from '../ui/pointer';

/** Whether the focus is within an element; what is pressed meanwhile is not taken away from under the pointer. */
export function useWithin() {
  const [within, setWithin] = useState(false);
  const inside = useRef(false);
  return {
    within,
    follow: {
      onFocus: () => {
        inside.current = true;
        setWithin(true);
      },
      onBlur: () => {
        inside.current = false;
        whenReleased(() => setWithin(inside.current));
      },
    },
  };
}
