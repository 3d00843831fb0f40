/** Runs in a page that was not made here: its elements as the OS's dump has them, and each text's own place and style. */

export interface PageText {
  text: string;
  kind: 'text' | 'icon';
  /** Its letters are painted in the colour of this number where only letters are painted. */
  ink: number;
  /** Number of the node in the tree; texts of one node are one element. */
  node: number;
  sizePx: number;
  weight: number;
  /** Nothing lies over it, and its colour is its own: what was painted is true of it. */
  isClear: boolean;
  /** Where its lines stand, in CSS pixels. */
  lines: { x: number; y: number; width: number; height: number }[];
}

export interface WrittenPage {
  tree: unknown;
  texts: PageText[];
}

interface Edges {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export function writePage(scale: number): WrittenPage {
  for (const element of document.querySelectorAll('[data-ink]')) element.removeAttribute('data-ink');
  const texts: PageText[] = [];
  const inks = new Map<Element, number>();
  let nodes = 0;
  const screen = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
  const edgesOf = ({ bottom, left, right, top }: Edges): Edges => ({ left, top, right, bottom });
  const within = (a: Edges, b: Edges): Edges => ({
    left: Math.max(a.left, b.left),
    top: Math.max(a.top, b.top),
    right: Math.min(a.right, b.right),
    bottom: Math.min(a.bottom, b.bottom),
  });
  const isEmpty = ({ bottom, left, right, top }: Edges) => right - left < 0.5 || bottom - top < 0.5;
  const isWithin = (a: Edges, b: Edges) =>
    a.left >= b.left - 1 && a.top >= b.top - 1 && a.right <= b.right + 1 && a.bottom <= b.bottom + 1;
  const px = (css: number) => Math.round(css * scale);
  const boxOf = ({ bottom, left, right, top }: Edges) => ({
    x: px(left),
    y: px(top),
    width: px(right) - px(left),
    height: px(bottom) - px(top),
  });
  // as it is shown, which is what toolkits say
  const shownOf = (node: Node): string => {
    if (node.nodeType !== 3) return [...node.childNodes].map(shownOf).join('');
    const { textTransform } = getComputedStyle(node.parentElement!);
    const text = node.textContent ?? '';
    if (textTransform === 'uppercase') return text.toUpperCase();
    if (textTransform === 'lowercase') return text.toLowerCase();
    return textTransform === 'capitalize'
      ? text.replace(/(?<!\p{L})\p{L}/gu, (of) => of.toUpperCase())
      : text;
  };
  const wordsOf = (node: Node) => shownOf(node).replace(/\s+/g, ' ').trim();
  const ownTexts = (element: Element) =>
    [...element.childNodes].filter((child) => child.nodeType === 3 && wordsOf(child) !== '');
  const PICTURES = 'img,svg,canvas,video,iframe,object,picture,embed';
  const isGlyph = (words: string) => /^[\p{Co}\p{So}×✓]+$/u.test(words);
  // an icon of an icon typeface: a letter of private use, written by the style or in the page
  const iconOf = (element: Element): string | undefined => {
    for (const pseudo of ['::before', '::after']) {
      const { content } = getComputedStyle(element, pseudo);
      const said = /^"(.+)"$/.exec(content)?.[1] ?? '';
      if (/^\p{Co}+$/u.test(said)) return said;
    }
    return undefined;
  };
  const isInline = (element: Element): boolean =>
    getComputedStyle(element).display === 'inline' &&
    !element.matches(`${PICTURES},input,button,select,textarea,br`) &&
    !iconOf(element) &&
    [...element.children].every(isInline);
  const isShown = (element: Element): boolean => {
    const style = getComputedStyle(element);
    return style.display !== 'none' && style.opacity !== '0';
  };
  const isDrawnPlainly = (element: Element | null): boolean => {
    for (let at = element; at; at = at.parentElement) {
      const style = getComputedStyle(at);
      if (style.webkitBackgroundClip === 'text' || style.mixBlendMode !== 'normal' || style.filter !== 'none')
        return false;
    }
    return true;
  };
  /** Nothing lies over it: what is hit at points along the line is the element, or holds it, or is in it. */
  const isOnTop = (line: Edges, element: Element): boolean =>
    [0.05, 0.3, 0.5, 0.7, 0.95].every((share) => {
      const x = line.left + (line.right - line.left) * share;
      const hit = document.elementFromPoint(x, (line.top + line.bottom) / 2);
      return hit !== null && (hit.contains(element) || element.contains(hit));
    });
  const noteText = (
    from: Node,
    words: string,
    element: Element,
    node: number,
    clip: Edges,
    kind: 'text' | 'icon',
  ) => {
    const range = document.createRange();
    range.selectNodeContents(from);
    const rects = (
      kind === 'icon' && from === element ? [element.getBoundingClientRect()] : [...range.getClientRects()]
    )
      .map(edgesOf)
      .filter((line) => !isEmpty(line));
    const style = getComputedStyle(element);
    const good =
      rects.length > 0 &&
      rects.every((line) => isWithin(line, clip) && isOnTop(line, element)) &&
      style.visibility === 'visible' &&
      style.webkitTextFillColor === style.color &&
      isDrawnPlainly(element) &&
      !/\p{Extended_Pictographic}/u.test(words);
    // light letters: dark ones are painted a little stronger than they cover
    const ink = inks.get(element) ?? 0xfffffe - inks.size;
    inks.set(element, ink);
    if (good) {
      element.setAttribute('data-ink', '');
      (element as HTMLElement).style.setProperty('--ink', `#${ink.toString(16)}`);
    }
    texts.push({
      text: words,
      kind,
      ink,
      node,
      isClear: good,
      sizePx: Number.parseFloat(style.fontSize),
      weight: Number(style.fontWeight),
      lines: rects.map((line) => ({
        x: line.left,
        y: line.top,
        width: line.right - line.left,
        height: line.bottom - line.top,
      })),
    });
  };
  const nodeOf = (
    className: string,
    edges: Edges,
    more: Record<string, unknown>,
    children: unknown[] = [],
  ) => {
    nodes += 1;
    return { className, bounds: boxOf(edges), ...more, children };
  };
  const spanOf = (rects: readonly Edges[]): Edges => ({
    left: Math.min(...rects.map(({ left }) => left)),
    top: Math.min(...rects.map(({ top }) => top)),
    right: Math.max(...rects.map(({ right }) => right)),
    bottom: Math.max(...rects.map(({ bottom }) => bottom)),
  });
  // what stands fast is drawn over all else
  const fixed: unknown[] = [];
  const elementNodes = (element: Element, clip: Edges, hasControl: boolean): unknown[] => {
    if (getComputedStyle(element).position !== 'fixed') return flowNodes(element, clip, hasControl);
    fixed.push(...flowNodes(element, screen, false));
    return [];
  };
  const flowNodes = (element: Element, clip: Edges, hasControl: boolean): unknown[] => {
    if (!isShown(element) || element.matches('script,style,noscript,template,option,datalist')) return [];
    const style = getComputedStyle(element);
    const whole = edgesOf(element.getBoundingClientRect());
    const cuts = style.overflowX !== 'visible' || style.overflowY !== 'visible';
    const inner = cuts ? within(clip, whole) : clip;
    const seen = within(clip, whole);
    const visible = style.visibility === 'visible';
    const isControl =
      element.matches('a[href],button,input,select,textarea,[role=button],[onclick]') && !hasControl;
    const off = element.matches(':disabled,.disabled,[aria-disabled=true]');
    const named = (element as HTMLInputElement).labels?.[0];
    const name =
      element.getAttribute('aria-label') ?? element.getAttribute('alt') ?? element.getAttribute('title');
    const label = named ? wordsOf(named) : (name ?? '').trim();
    const more = { clickable: isControl, focusable: isControl, enabled: !off, label };
    const own = ownTexts(element);
    if (element.matches('input,select,textarea')) {
      if (isEmpty(seen) || !visible) return [];
      const field = element as HTMLInputElement;
      const button = /^(submit|button|reset)$/.test(field.type);
      const box = /^(checkbox|radio)$/.test(field.type);
      const plain = box || /^(range|color|file|image|hidden)$/.test(field.type);
      const className = button
        ? 'android.widget.Button'
        : box
          ? 'android.widget.CheckBox'
          : 'android.widget.EditText';
      const words = element.matches('select')
        ? ((element as unknown as HTMLSelectElement).selectedOptions[0]?.textContent ?? '').trim()
        : field.value || field.placeholder || '';
      return [
        nodeOf(className, seen, {
          ...more,
          text: plain ? '' : words,
          checkable: box,
          checked: box && field.checked,
        }),
      ];
    }
    if (element.matches(PICTURES))
      return isEmpty(seen) || !visible ? [] : [nodeOf('android.widget.ImageView', seen, more)];
    const icon = iconOf(element);
    if (icon && own.length === 0 && element.children.length === 0) {
      if (isEmpty(seen) || !visible) return [];
      noteText(element, icon, element, nodes, clip, 'icon');
      return [nodeOf('android.widget.ImageView', seen, { ...more, label: label || 'Symbol' })];
    }
    const wholeText =
      own.length > 0 &&
      !icon &&
      [...element.children].every((child) => isInline(child) || child.matches('br'));
    if (wholeText) {
      const words = wordsOf(element);
      const rects = [...element.getClientRects()].map(edgesOf);
      const edges = within(inner, style.display === 'inline' ? spanOf(rects) : whole);
      if (isEmpty(edges) || !visible) return [];
      const number = nodes;
      const className =
        isControl && element.matches('button,[role=button],.btn')
          ? 'android.widget.Button'
          : 'android.widget.TextView';
      const node = nodeOf(className, edges, { ...more, text: words });
      const kind = isGlyph(words) ? 'icon' : 'text';
      const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
      for (let at = walker.nextNode(); at; at = walker.nextNode())
        if (wordsOf(at) !== '') noteText(at, wordsOf(at), at.parentElement!, number, inner, kind);
      return [node];
    }
    const children: unknown[] = [];
    for (const child of inDrawingOrder(element))
      if (child.nodeType === 3 && wordsOf(child) !== '') {
        const range = document.createRange();
        range.selectNodeContents(child);
        const rects = [...range.getClientRects()].map(edgesOf).filter((line) => !isEmpty(line));
        if (rects.length === 0 || !visible) continue;
        const edges = within(inner, spanOf(rects));
        if (isEmpty(edges)) continue;
        const number = nodes;
        children.push(nodeOf('android.widget.TextView', edges, { text: wordsOf(child), enabled: !off }));
        noteText(child, wordsOf(child), element, number, inner, 'text');
      } else if (child.nodeType === 1)
        children.push(...elementNodes(child as Element, inner, hasControl || isControl));
    if (isEmpty(seen)) return children;
    const drawn =
      isControl ||
      style.backgroundColor !== 'rgba(0, 0, 0, 0)' ||
      style.backgroundImage !== 'none' ||
      style.borderStyle !== 'none';
    if (!drawn && children.length < 2) return children;
    return [
      nodeOf(isControl ? 'android.widget.FrameLayout' : 'android.view.ViewGroup', seen, more, children),
    ];
  };
  const inDrawingOrder = (element: Element): ChildNode[] => {
    const layer = (child: ChildNode) => {
      if (child.nodeType !== 1) return 0;
      const { position, zIndex } = getComputedStyle(child as Element);
      return position === 'static' ? 0 : Number(zIndex) || 0.5;
    };
    return [...element.childNodes].sort((a, b) => layer(a) - layer(b));
  };
  const children = elementNodes(document.body, screen, false);
  const page = nodeOf('android.widget.ScrollView', screen, { scrollable: true }, children);
  return { tree: nodeOf('android.widget.FrameLayout', screen, {}, [page, ...fixed]), texts };
}
