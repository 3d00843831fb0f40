/**
 * Conditions over topics, as messages carry them: `'delays' in topics && ('north' in topics || 'south' in topics)`
 * (Firebase documentation, *Send messages to topics*: at most five topics, `&&` binds before `||`, and `!` negates).
 */

const TOPIC = /^[\w\-.~%]+$/;
const MOST_TOPICS = 5;
const LONGEST = 1_000;
const TOKENS = /\s*(?:'([^']*)'\s+in\s+topics|(&&|\|\||!|\(|\)))\s*/y;

export const isTopicName = (name: string): boolean => TOPIC.test(name);

interface TopicCondition {
  topics: readonly string[];
  holds(subscribed: ReadonlySet<string>): boolean;
}

type Test = TopicCondition['holds'];

/** @returns undefined where it is no condition, or names more than five topics */
export function parseTopicCondition(text: string): TopicCondition | undefined {
  const tokens = text.length > LONGEST ? undefined : tokensOf(text);
  if (!tokens) return undefined;
  const topics = [...new Set(tokens.flatMap(({ topic }) => (topic === undefined ? [] : [topic])))];
  if (topics.length === 0 || topics.length > MOST_TOPICS || !topics.every(isTopicName)) return undefined;
  let next = 0;
  const takes = (sign: string): boolean => tokens[next]?.sign === sign && ++next > 0;
  const single = (): Test | undefined => {
    if (takes('!')) {
      const negated = single();
      return negated && ((subscribed) => !negated(subscribed));
    }
    if (takes('(')) {
      const inner = either();
      return takes(')') ? inner : undefined;
    }
    const topic = tokens[next++]?.topic;
    return topic === undefined ? undefined : (subscribed) => subscribed.has(topic);
  };
  const chain = (sign: string, part: () => Test | undefined, isHeld: (tests: Test[]) => Test) => {
    const tests = [part()];
    while (takes(sign)) tests.push(part());
    return tests.every((test) => test !== undefined) ? isHeld(tests as Test[]) : undefined;
  };
  const both = () => chain('&&', single, (tests) => (of) => tests.every((test) => test(of)));
  const either = (): Test | undefined => chain('||', both, (tests) => (of) => tests.some((test) => test(of)));
  const holds = either();
  return holds && next === tokens.length ? { topics, holds } : undefined;
}

function tokensOf(text: string): { topic?: string; sign?: string }[] | undefined {
  const tokens: { topic?: string; sign?: string }[] = [];
  let at = 0;
  while (at < text.length) {
    TOKENS.lastIndex = at;
    const found = TOKENS.exec(text);
    if (!found) return undefined;
    at = TOKENS.lastIndex;
    const [, topic, sign] = found;
    tokens.push(topic === undefined ? { sign: sign! } : { topic });
  }
  return tokens;
}
