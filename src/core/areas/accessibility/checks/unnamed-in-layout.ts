/**
 * Fields and picture buttons for which a layout says nothing to read out, and pictures that are neither described nor marked as
 * decoration (WCAG 2.2, 1.1.1, 3.3.2 and 4.1.2). Code may name them later, so it is always an estimate; on a captured screen the
 * names are measured.
 */

import { z } from 'zod';
import type { LayoutViewFact } from '../../../model/fact.ts';
import type { Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const controlSchema = z.strictObject({
  role: z.enum(['field', 'button']),
  layout: z.string(),
  platform: z.enum(['android', 'ios']),
  view: z.string(),
});
const picturesSchema = z.strictObject({ role: z.literal('picture'), places: z.array(z.string()) });
const dataSchema = z.union([controlSchema, picturesSchema]);
type Data = z.infer<typeof dataSchema>;

export const unnamedInLayout = defineCheck({
  id: 'unnamed-in-layout',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.1.1 Non-text Content, 3.3.2 Labels or Instructions, 4.1.2 Name, Role, Value',
  basis: 'estimated',
  needs: 'package',
  reads: ['layout-view'],
  data: dataSchema,
  words: (data) => {
    if (data.role === 'picture') {
      const all = data.places;
      return {
        what: `${all.length === 1 ? 'A picture of a layout is' : `${all.length} pictures of layouts are`} neither described nor marked as decoration`,
        measured: all.slice(0, 4).join('; ') + (all.length > 4 ? `; and ${all.length - 4} more` : ''),
        required: 'a description, or a mark that it is only for show (WCAG 2.2, 1.1.1)',
        why: 'Unless code describes them, screen readers pass over them, whatever they show.',
        remedy:
          'Give those that tell something android:contentDescription, and the others android:importantForAccessibility="no".',
      };
    }
    const { layout, view } = data;
    const { cure, noun } = UNNAMED[data.platform][data.role];
    return {
      what: `The layout gives ${noun} no name: ${view}`,
      measured: `nothing to read out in ${layout}`,
      required: 'a name (WCAG 2.2, 4.1.2)',
      why: 'Unless code names it, screen readers say what it is and not what it is for.',
      remedy: cure,
    };
  },

  *run(facts) {
    const pictures: LayoutViewFact[] = [];
    for (const view of facts.of('layout-view')) {
      if (view.role === 'text') continue;
      // iOS does not read a plain picture out, unless it is told to
      if (view.platform === 'ios' && !view.isActionable) yield { outcome: 'inapplicable' };
      else if (view.isNamed) yield { outcome: 'passed' };
      else if (view.isActionable) yield { outcome: 'cantTell', draft: draftOf(view) };
      else pictures.push(view);
    }
    // most pictures only decorate, so that one look at all of them is enough
    if (pictures.length > 0) yield { outcome: 'cantTell', draft: draftOfAll(pictures) };
  },

  doc: {
    looksAt: 'Fields, pictures and buttons of layouts, fields and buttons of interface files',
    against:
      'A hint, a title, a label or a description, or a mark that it is only for show. Always estimated',
    matters: 'Screens that nobody captured have unnamed controls too.',
    measured:
      "Fields, pictures and buttons of the package's layouts and interface files, and what they say to be read out.",
    errs: 'Code may name them, so it is always estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: `<ImageView android:importantForAccessibility="no" />  <!-- only for show -->
<EditText android:hint="@string/name" />`,
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'field.placeholder = NSLocalizedString("name", comment: "")',
      },
    ],
  },
});

function draftOf({ evidence, layout, platform, role: of, view }: LayoutViewFact): Draft<Data> {
  // a picture that does something when it is tapped is a button
  const role = of === 'field' ? 'field' : 'button';
  return {
    identity: { subject: `${layout} ${view}` },
    basis: 'estimated',
    severity: 2,
    digest: role,
    cause: `${platform} ${role}`,
    occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, platform, role, view } },
  };
}

function draftOfAll(pictures: readonly LayoutViewFact[]): Draft<Data> {
  const places = pictures.map(({ layout, view }) => `${layout}, ${view}`).sort();
  return {
    identity: { subject: 'pictures' },
    basis: 'estimated',
    severity: 1,
    digest: places.join('\n'),
    occurrence: {
      evidence: pictures[0]!.evidence,
      shown: places[0]!,
      data: { role: 'picture', places },
    },
  };
}

const UNNAMED: Record<'android' | 'ios', Record<'field' | 'button', { noun: string; cure: string }>> = {
  android: {
    field: { noun: 'a field', cure: 'Give it android:hint, or a visible text with android:labelFor.' },
    button: { noun: 'a picture button', cure: 'Give it android:contentDescription: what it does.' },
  },
  ios: {
    field: {
      noun: 'a field',
      cure: 'Give it a placeholder, or an accessibility label in the interface file.',
    },
    button: {
      noun: 'a button',
      cure: 'Give it a title, or an accessibility label in the interface file.',
    },
  },
};
