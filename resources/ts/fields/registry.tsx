import type { ComponentType } from 'react';
import type { FieldSchema } from '../api/schema';
import { ChoiceControl } from './ChoiceControl';
import { ClipControl } from './ClipControl';
import { ColourControl } from './ColourControl';
import type { ControlProps } from './control';
import { CueControl } from './CueControl';
import { CurveField } from './CurveField';
import { KeyedNumber } from './KeyedNumber';
import { PaintField } from './PaintField';
import { PictureField } from './PictureField';
import { PicturesField } from './PicturesField';
import { PlacesField } from './PlacesField';
import { ProfileField } from './ProfileField';
import { PropChoice } from './PropChoice';
import { PropsField } from './PropsField';
import { SwitchControl } from './SwitchControl';
import { TextControl } from './TextControl';
import { VectorField } from './VectorField';
import { WeightsField } from './WeightsField';

interface Entry {
  fits: (field: FieldSchema) => boolean;
  control: ComponentType<ControlProps>;
  /** Draws its own label: it takes more than one row. */
  whole?: boolean;
}

/** One control per kind of setting; the first that fits is taken. */
const CONTROLS: Entry[] = [
  { fits: (field) => field['x-vector'] === true, control: VectorField, whole: true },
  { fits: (field) => field['x-places'] === true, control: PlacesField, whole: true },
  { fits: (field) => field['x-props'] === true, control: PropsField, whole: true },
  { fits: (field) => field['x-strokes'] === true, control: PaintField, whole: true },
  { fits: (field) => field['x-curve'] === true, control: CurveField, whole: true },
  { fits: (field) => field['x-weights'] === true, control: WeightsField },
  { fits: (field) => field['x-picture'] === true, control: PictureField, whole: true },
  { fits: (field) => field['x-pictures'] === true, control: PicturesField, whole: true },
  { fits: (field) => field['x-profile'] === true, control: ProfileField, whole: true },
  { fits: (field) => field['x-prop'] === true, control: PropChoice },
  { fits: (field) => field['x-cue'] === true, control: CueControl },
  { fits: (field) => field['x-clip'] === true, control: ClipControl },
  { fits: (field) => field.enum !== undefined, control: ChoiceControl },
  { fits: (field) => field.type === 'boolean', control: SwitchControl },
  { fits: (field) => field['x-colour'] === true, control: ColourControl },
  { fits: (field) => field.type === 'string', control: TextControl },
  { fits: () => true, control: KeyedNumber },
];

export function controlFor(field: FieldSchema): Entry {
  return CONTROLS.find((entry) => entry.fits(field)) as Entry;
}
