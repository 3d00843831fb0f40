/** Kelpline's build 241, the candidate after: what its code does otherwise. Its resources and manifest are those of its package. */
import type { AppContext, Element, PhoneApp, ScreenModel } from '../../app-model.ts';
import { kelpline } from './kelpline.ts';

/** The same screen, with each of its elements as it is written now. */
function rewritten(screen: string, rewrite: (element: Element, app: AppContext) => Element): ScreenModel {
  const model = kelpline.screens[screen]!;
  const walk = (element: Element, app: AppContext): Element => {
    const now = rewrite(element, app);
    return now.kind === 'box' ? { ...now, children: now.children.map((child) => walk(child, app)) } : now;
  };
  return { ...model, view: (app, state) => walk(model.view(app, state), app) };
}

// fixed: the button has a description
const timetable = rewritten('timetable', (element, app) =>
  element.id === 'swap_direction' ? { ...element, contentDescription: app.string('swap_harbours') } : element,
);

const booking = rewritten('booking', (element) => {
  // renamed, and nothing else
  if (element.id === 'passengers_minus') return { ...element, id: 'passengers_fewer' };
  // planted: 2.2:1 on the surface
  if (element.id === 'total' && element.kind === 'text') return { ...element, colour: 'ink_faint' };
  return element;
});
const { passengers_minus: fewer, ...bookingTaps } = booking.taps!;

// restyled: more room, and a title that is larger
const sailing = rewritten('sailing', (element) => {
  if (element.id === 'route' && element.kind === 'text') return { ...element, sizeSp: 24 };
  if (element.id === 'content' && element.kind === 'box')
    return { ...element, style: { ...element.style, gap: 18 } };
  return element;
});

export const kelplineNext: PhoneApp = {
  ...kelpline,
  build: '241',
  screens: {
    ...kelpline.screens,
    timetable,
    sailing,
    booking: { ...booking, taps: { ...bookingTaps, passengers_fewer: fewer! } },
  },
};
