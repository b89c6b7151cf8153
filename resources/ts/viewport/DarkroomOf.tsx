import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import { darkroom } from '../film/darkroom';
import { ShotContext } from '../shot/context';
import { openRoll } from './roll';
import { aspectOf } from './ShotCamera';

/** Lets the darkroom take pictures of what the canvas shows: through the shot's camera where it has one, else as one looks. */
export function DarkroomOf() {
  const { handle, frames, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const get = useThree((state) => state.get);
  useEffect(() => {
    if (!frames) return;
    const own = {
      aspect: () => {
        const { size } = get();
        return document.camera.on ? aspectOf(document) : size.width / size.height;
      },
      open: (width: number, height: number) => openRoll({ get, document, numbers, frames }, width, height),
    };
    darkroom.current = own;
    return () => {
      if (darkroom.current === own) darkroom.current = null;
    };
  }, [document, frames, numbers, get]);
  return null;
}
