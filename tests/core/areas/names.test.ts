/** Names that say nothing to a person, and look-alikes that are good ones; which node of a row is the control. */
import { meaninglessName } from '../../../src/core/areas/accessibility/checks/meaningless-name.ts';
import { roleInName } from '../../../src/core/areas/accessibility/checks/role-in-name.ts';
import { smallTarget } from '../../../src/core/areas/accessibility/checks/small-target.ts';
import { unnamedControl } from '../../../src/core/areas/accessibility/checks/unnamed-control.ts';
import { unspokenState } from '../../../src/core/areas/accessibility/checks/unspoken-state.ts';
import { walkStops } from '../../../src/core/areas/accessibility/walk-stops.ts';
import type { Check } from '../../../src/core/areas/check.ts';
import type { UiNode } from '../../../src/core/model/ui-tree.ts';
import { departures, observeScreen, run, ui } from '../../support/facts.ts';

const screen = (...children: UiNode[]) => ui([0, 0, 400, 800], { className: 'Frame' }, ...children);
const named = (label: string, className: string) =>
  screen(ui([50, 50, 60, 60], { id: 'it', clickable: true, className, label }));
const says = (check: Check, label: string, className = 'android.widget.ImageButton') =>
  departures(run(check, observeScreen(named(label, className))));

describe('a name that says nothing', () => {
  test.each([
    ...['ic_back.png', 'photo (3).jpg', 'IMG_20240113_1200.jpg', 'assets/icons/close.svg', 'img@2x.png'],
    ...['Screenshot_2024-01-13', 'DSC01234', 'file:///sdcard/a.png', 'https://cdn.example/a.png'],
    ...['@drawable/ic_close', 'R.id.close', 'R.drawable.ic_star', '@+id/button', 'example.app:id/close'],
    ...['ic_close', 'btn_save', 'image_view_2', 'icon-heart', 'nav.home.title'],
    ...['btnSave', 'imgProfile', 'settingsIcon', 'closeButton', 'profileImageView', 'lblTitle'],
    ...['3f2504e0-4f89-11d3-9a0c-0305e82c3301', '0x7f0a01b2', 'view_12', 'button3', 'node-17'],
    ...['ImageView', 'android.widget.Button', 'UIButton', 'AppCompatTextView', 'RCTView'],
    ...['null', 'undefined', '[object Object]', 'lorem ipsum dolor', 'TODO', 'placeholder', 'untitled'],
    ...['%s', '{{title}}', '$\u007bname}', 'content description', 'Unlabelled'],
    ...['on', 'Off', 'selected', 'Not checked', 'Ein', 'på', 'wyłączone', 'محدد'],
    ...['Button', 'Knapp', 'Schaltfläche', 'przycisk', 'زر'],
  ])('“%s” is found', (name) => {
    expect(says(meaninglessName, name)).toEqual(['failed it']);
  });

  test.each(['Title', 'Label', 'Text', 'Test', 'someGreatThing'])('“%s” may be meant', (name) => {
    expect(says(meaninglessName, name)).toEqual(['cantTell it']);
  });

  test.each([
    ...[
      'Image settings',
      'Button colours',
      'Save',
      'Delete image',
      'Null Island',
      'Title deeds',
      'Switch account',
    ],
    ...[
      'iPhone',
      'eSIM',
      'iCloud',
      'macOS',
      'PayPal',
      'YouTube',
      'LinkedIn',
      'WhatsApp',
      'McAfee',
      'OneDrive',
    ],
    ...[
      'Text message',
      'Label printer',
      'Test drive',
      'On time',
      'Off-peak fares',
      'Selected harbours',
      'Undefined terms',
    ],
    ...[
      'Check in',
      'Tab bar colour',
      'View all',
      'List view',
      'Card number',
      'Frame 3 of 12',
      'Scroll to top',
    ],
    ...[
      'A4',
      'B12',
      'Gate 4',
      'Line 2',
      'Route 66',
      '24/7',
      '$180',
      '$5',
      '3–5 days',
      'EUR',
      'OK',
      'Go',
      'Ja',
      'Nei',
    ],
    ...[
      'Wi-Fi',
      'Check-in',
      'on-board meals',
      'e-ticket',
      'co-pilot',
      'self-service',
      'Kjøp billett',
      'Dark mode',
    ],
    ...['Hallo Welt', 'Einstellungen', 'Auswahl', 'Przyciski', 'زر البدء', 'القائمة', 'Открыть', 'Bilder'],
    ...[
      'Share photo',
      'Icon of the day',
      'Field hospital',
      'Slider burger',
      'Progress report',
      'Radio button shop',
    ],
  ])('“%s” passes', (name) => {
    expect(says(meaninglessName, name)).toEqual([]);
  });

  test('what is written for all to see may be about a file or a number', () => {
    const written = (text: string) =>
      departures(
        run(
          meaninglessName,
          observeScreen(screen(ui([50, 50, 60, 60], { id: 'it', clickable: true, text }))),
        ),
      );
    expect(written('report.pdf')).toEqual(['cantTell it']);
    expect(written('On')).toEqual([]);
    expect(written('null')).toEqual(['failed it']);
  });

  test.each([
    ['Save button', 'android.widget.Button', ['failed it']],
    ['Button Save', 'android.widget.Button', ['failed it']],
    ['Schaltfläche Speichern', 'android.widget.Button', ['failed it']],
    ['Settings icon', 'android.widget.ImageView', ['failed it']],
    ['Ustawienia ikona', 'android.widget.ImageView', ['failed it']],
    ['Image settings', 'android.widget.Button', []],
    ['Take a picture', 'android.widget.ImageButton', []],
    ['Add image', 'android.widget.ImageButton', []],
    ['Buttons', 'android.widget.Button', []],
    ['Tab settings', 'android.widget.Button', []],
  ])('role in “%s” of a %s', (name, className, expected) => {
    expect(says(roleInName, name, className)).toEqual(expected);
  });
});

describe('a settings screen', () => {
  const row = (n: number, checked: boolean, of: Partial<UiNode> = {}) =>
    ui(
      [0, 100 + n * 64, 400, 64],
      { id: `row${n}`, className: 'android.widget.LinearLayout', clickable: true, focusable: true },
      ui([16, 112 + n * 64, 200, 20], { className: 'android.widget.TextView', text: `Setting ${n}` }),
      ui([340, 120 + n * 64, 44, 24], {
        className: 'android.widget.Switch',
        checkable: true,
        checked,
        text: checked ? 'ON' : 'OFF',
        ...of,
      }),
    );

  test('a switch that neither takes a click nor the focus is part of its row, and its state the row’s', () => {
    const tree = screen(row(0, true), row(1, false));
    for (const check of [unnamedControl, smallTarget, unspokenState])
      expect(departures(run(check, observeScreen(tree)))).toEqual([]);
    const { stops } = walkStops(tree, { widthPx: 400, heightPx: 800 }, { platform: 'android', rtl: false });
    expect(stops.map(({ spoken }) => spoken)).toEqual([
      ['Setting 0', 'on', 'switch'],
      ['Setting 1', 'off', 'switch'],
    ]);
  });

  test('one that can be acted on by itself is judged by itself', () => {
    const tree = screen(row(0, true, { clickable: true, focusable: true, text: '' }));
    expect(departures(run(unnamedControl, observeScreen(tree)))).toHaveLength(1);
    expect(departures(run(smallTarget, observeScreen(tree)))).toHaveLength(1);
  });

  test('a strip of a row at the edge of its scroller cannot be told of, a slider without a name can', () => {
    const list = ui(
      [0, 0, 400, 700],
      { scrollable: true, className: 'androidx.recyclerview.widget.RecyclerView' },
      ui([0, 690, 400, 10], { id: 'strip', clickable: true, className: 'android.view.ViewGroup' }),
    );
    expect(departures(run(unnamedControl, observeScreen(screen(list))))).toEqual(['cantTell strip']);
    const slider = ui([20, 300, 200, 48], {
      id: 'volume',
      focusable: true,
      className: 'android.widget.SeekBar',
    });
    expect(departures(run(unnamedControl, observeScreen(screen(slider))))).toEqual(['failed volume']);
    const silent = ui([20, 300, 200, 48], { id: 'silent', focusable: true, className: 'android.view.View' });
    expect(departures(run(unnamedControl, observeScreen(screen(silent))))).toEqual(['cantTell silent']);
  });
});
