/** Which toolkit a screen was drawn with, on the sheets as each writes them down; and a game that has nothing inside. */

import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { toolkitOf } from '../../src/core/model/toolkit.ts';
import type { UiNode } from '../../src/core/model/ui-tree.ts';
import { anIntent, observeScreen, ui } from '../support/facts.ts';

const within = (className: string, ...children: UiNode[]) => ui([0, 0, 400, 800], { className }, ...children);
const line = (n: number, className: string, of: Partial<UiNode>) =>
  ui([20, 50 + n * 60, 200, 40], { className, ...of });
const three = (className: string, of: (text: string) => Partial<UiNode>) =>
  ['one', 'two', 'three'].map((text, n) => line(n, className, of(text)));

test.each([
  ['views', within('android.widget.FrameLayout', ...three('android.widget.TextView', (text) => ({ text })))],
  ['flutter', within('android.view.View', ...three('android.view.View', (label) => ({ label })))],
  [
    'compose',
    within(
      'androidx.compose.ui.platform.ComposeView',
      ...three('android.widget.TextView', (text) => ({ text })),
    ),
  ],
  ['web', within('android.webkit.WebView', ...three('android.widget.TextView', (text) => ({ text })))],
  [
    'react-native',
    within('com.facebook.react.ReactRootView', ...three('android.widget.TextView', (text) => ({ text }))),
  ],
  ['surface', within('android.widget.FrameLayout', line(0, 'android.view.SurfaceView', {}))],
])('%s', (toolkit, tree) => {
  expect(toolkitOf(tree, 'android')).toBe(toolkit);
});

test('a game is untested by every check of what is on a screen, and passes none', () => {
  const game = within('android.widget.FrameLayout', line(0, 'android.view.SurfaceView', {}));
  const reports = collectFindings(checks, indexFacts(observeScreen(game)), anIntent());
  // which build and which device a capture is of can be told of a game too
  const onScreens = reports.filter(({ check }) => check.needs === 'capture' && check.reads.length > 0);
  expect(onScreens.length).toBeGreaterThan(10);
  for (const { missingEvidence, passed } of onScreens) {
    expect(missingEvidence.join()).toContain('one surface');
    expect(passed).toBe(0);
  }
});
