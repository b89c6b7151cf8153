import { describe, expect, it } from 'vitest';
import { leftText } from '../../resources/ts/ui/left';

describe('how long something will take yet', () => {
  it.each([
    [0.2, 'about 1 s left'],
    [8, 'about 8 s left'],
    [119, 'about 119 s left'],
    [120, 'about 2 min left'],
    [390.4, 'about 7 min left'],
    [7140, 'about 119 min left'],
    [7201, 'about 2 h 1 min left'],
  ])('%d seconds: %s', (seconds, words) => {
    expect(leftText(seconds)).toBe(words);
  });
});
