/** The stand-in phone's shell and tools beside those that phones have, as Debian packs them: mksh, and toybox. */
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { nodePorts } from '../../src/node/ports.ts';
import { PhoneOs } from '../../src/standins/phone/os/phone-os.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { runInput, runLine } from '../../src/standins/phone/shell/run-line.ts';
import { describeWith, scratchFolder, tools } from '../support/paths.ts';

interface Ran {
  out: string;
  code: number;
}

const scratch = scratchFolder();
const TOOLS =
  'basename cat chmod cmp cp cut date dirname du echo egrep env expr false fgrep find grep head ls md5sum mkdir mktemp mv nl paste printenv printf rev rm rmdir sed seq sha1sum sha256sum sleep sort stat strings tac tail tee timeout touch tr true uniq wc xargs xxd'.split(
    ' ',
  );
const FOLDER = '/data/local/tmp/t';
const everywhere = new AbortController().signal;

async function onPhone(script: string, input = '', run = runLine): Promise<Ran & { err: string }> {
  const os = new PhoneOs(shapes.common, nodePorts, []);
  os.files.makeFolder(FOLDER);
  const said = { out: [] as Uint8Array[], err: [] as Uint8Array[] };
  try {
    const code = await run(os, `cd ${FOLDER}\n${script}`, {
      input: (async function* () {
        if (input !== '') yield Buffer.from(input);
      })(),
      out: (bytes) => said.out.push(bytes),
      err: (bytes) => said.err.push(bytes),
      signal: everywhere,
    });
    return { out: Buffer.concat(said.out).toString(), err: Buffer.concat(said.err).toString(), code };
  } finally {
    os.close();
  }
}

function asPhonesDo(script: string, input = ''): Promise<Ran> {
  const bin = join(scratch, 'bin');
  mkdirSync(bin, { recursive: true });
  for (const name of TOOLS)
    try {
      // Debian leaves these two out
      symlinkSync(/^(expr|tr)$/.test(name) ? `/usr/bin/${name}` : tools.toybox, join(bin, name));
    } catch {
      // it is there already
    }
  return new Promise((resolve) => {
    const child = execFile(
      tools.mksh,
      ['-c', script],
      { cwd: mkdtempSync(join(scratch, 'run-')), env: { PATH: bin, HOME: '/', LC_ALL: 'C.UTF-8' } },
      (error, out) => resolve({ out, code: error ? Number(error.code) : 0 }),
    );
    // some scripts end without reading it
    child.stdin!.on('error', () => {});
    child.stdin!.end(input);
  });
}

/** Everyday lines; what they print and how they end is what the real ones say. */
const LINES: Record<string, string[]> = {
  words: [
    `echo a  b   "c  d" 'e  f' g\\ h`,
    `x='a b'; echo $x "$x" '$x' "\${x}y" \${x}y`,
    `echo "a\\tb" 'c\\nd'; echo -n x; echo -e 'a\\tb'; echo -E 'a\\tb'`,
    `x=; for i in $x "$x" ''; do echo "[$i]"; done`,
    `set -- 'a b' c; for i in "$@"; do echo "[$i]"; done; for i in $*; do echo "[$i]"; done; echo "$*" $#`,
    `set -- a b c; shift; echo $1 $#; shift 2; echo $#`,
    `echo ~ "~" a~; echo $'a\\tb\\x41'`,
    `echo {a,b}{1,2} "{a,b}" pre{x,y}post`,
    `IFS=:; x=a:b::c; for i in $x; do echo "[$i]"; done; echo "$x"`,
    `IFS=', '; x='a, b ,c'; for i in $x; do echo "[$i]"; done`,
    `echo a # comment\necho "b # not"; echo c#d`,
    `echo one \\\n two; echo "x\\\ny"`,
    `x=5 y=6; echo $x$y; x+=1; echo $x`,
  ],
  parameters: [
    `unset x; echo \${x:-d} \${x-e} "\${x:-a b}"; x=; echo "[\${x:-d}]" "[\${x-e}]"`,
    `unset x; echo \${x:=v} $x; echo \${x:+set} \${y:+set}.`,
    `x=/a/b/c.tar.gz; echo \${x##*/} \${x#*/} \${x%.*} \${x%%.*} \${#x}`,
    `x='*.txt'; y=a.txt; case $y in $x) echo yes;; esac; case $y in "$x") echo no;; *) echo quoted;; esac`,
    `x=abcdef; echo \${x:1:3} \${x:2} \${x/c/X} \${x//[ae]/_} \${x/#a/A} \${x/%f/F}`,
    `(unset x; echo \${x:?gone}; echo never); echo $?`,
    `set -u; (echo $nothing; echo never); echo $?`,
    `x=a; readonly x; (x=b; echo never); echo $? $x`,
    `f() { local x=in; echo $x; }; x=out; f; echo $x`,
    `export A=1; B=2; env | grep '^[AB]=' | sort; C=3 printenv C; echo "[$C]"`,
    `x=1; x=2 eval 'echo $x'; echo $x; y=3 true; echo "[$y]"`,
  ],
  substitution: [
    `echo $(echo a; echo b) "$(echo a; echo b)"; x=$(printf 'a\\n\\n'); echo "[$x]"`,
    'echo `echo a` "`echo "b c"`" $(echo $(echo deep))',
    `x=$(exit 3); echo $?; echo $(false)$?; y=$(true) ; echo $?`,
    `echo $((1 + 2 * 3)) $(( (1+2)*3 )) $((7/2)) $((-7/2)) $((7%3)) $((2 > 1)) $((1 ? 5 : 6))`,
    `i=5; echo $((i++)) $i $((++i)) $((i+=10)) $i; ((i > 10)) && echo big; ((i = 0)) || echo zero`,
    `echo $((0x1f)) $((010)) $((1 << 4 | 1)) $((~5)) $((!0)) $((3 & 6 ^ 1))`,
    `x=3; echo $((x * x)) $(( x == 3 && x < 4 )); let 'z = x + 1'; echo $z`,
    `echo "\${x:-$(echo "in ner")}" \${x:-\`echo back\`}`,
  ],
  conditions: [
    `if true; then echo a; elif false; then echo b; else echo c; fi; if false; then :; fi; echo $?`,
    `[ a = a ] && echo 1; [ a != b ] && echo 2; [ -n "" ] || echo 3; [ -z "" ] && echo 4; [ ] || echo 5; [ x ] && echo 6`,
    `[ 3 -gt 2 -a 1 -lt 2 ] && echo 1; [ 1 -eq 2 -o 2 -eq 2 ] && echo 2; [ ! -e nothing ] && echo 3; test 5 -ge 5; echo $?`,
    `touch f; mkdir d; for t in -e -f -d -s -r -w -x; do [ $t f ] && echo "f $t"; [ $t d ] && echo "d $t"; done`,
    `[[ abc == a* ]] && echo 1; [[ abc == "a*" ]] || echo 2; [[ -n x && ( a < b || z < a ) ]] && echo 3; [[ ! -e no ]] && echo 4`,
    `case abc in x|a*) echo 1;; abc) echo 2;; esac; case x in [!a-w]) echo 3;; esac; case '' in '') echo 4;; *) echo 5;; esac; case no in a) ;; esac; echo $?`,
    `true && echo a || echo b; false && echo a || echo b; false || false || echo c; ! true; echo $?; ! false; echo $?`,
    `[ 1 -eq x ] 2>/dev/null; echo $?; [ a = ] 2>/dev/null; echo $?`,
  ],
  loops: [
    `for i in 1 2 3; do [ $i = 2 ] && continue; echo $i; done; for i in; do echo no; done; echo $?`,
    `i=0; while [ $i -lt 3 ]; do echo $i; i=$((i+1)); done; until [ $i -eq 0 ]; do i=$((i-1)); done; echo $i`,
    `for i in a b; do for j in 1 2 3; do [ $j = 2 ] && break; [ $i$j = b1 ] && break 2; echo $i$j; done; done`,
    `printf 'a 1\\nb 2 3\\n' | while read x y; do echo "$y-$x"; done`,
    `printf '%s\\n' '  lead \\t trail  ' | while IFS= read -r line; do echo "[$line]"; done`,
    `printf 'x:y:z\\n' | { IFS=: read a b; echo "$a|$b"; }; printf 'no end' | { read a; echo "$a $?"; }`,
    `f() { echo "$1-$#"; return 3; }; f a b; echo $?; g() { f "$@" | cat; }; g 'x y'; echo $?`,
    `fact() { if [ $1 -le 1 ]; then echo 1; else echo $(( $1 * $(fact $(($1 - 1))) )); fi; }; fact 6`,
    `n=0; while :; do n=$((n+1)); [ $n = 5 ] && break; done; echo $n; for x in $(seq 3); do printf "$x,"; done; echo`,
  ],
  streams: [
    `echo a > f; echo b >> f; cat f; cat < f | wc -l; > f; cat f; echo $?`,
    `{ echo out; echo err >&2; } 2>/dev/null; { echo out; echo err >&2; } 2>&1 | sort; ls nothing 2>/dev/null; echo $?`,
    `cat <<E\nx $((1+1)) $(echo s)\n\\$y "q"\nE\necho after`,
    `cat <<'E'\n$x \`no\` \\\nE\ncat <<-E\n\tone\n\t\ttwo\n\tE\n`,
    `while read a; do echo "<$a>"; done <<E\n1\n2\nE\ncat <<A; cat <<B\na\nA\nb\nB\n`,
    `echo a | cat | tr a b; echo x | (read y; echo $y); (echo s; exit 4); echo $?; { echo g; }; false | true; echo $?`,
    `(cd /; x=inner); echo $x; x=1; (x=2); echo $x; { x=3; }; echo $x; echo 4 | read x; echo $x`,
    `echo lost > /nowhere/x 2>/dev/null; echo $?; exec 2>/dev/null; cat nothing; echo $?`,
    `set -e; (false; echo never); echo never 2`,
    `set -e; if false; then :; fi; false || true; ! true; echo here`,
    `exit 7`,
    `nosuchcommand 2>/dev/null; echo $?; ./nofile 2>/dev/null; echo $?`,
    `eval 'x=1; echo $x'; eval echo '"a  b"'; type echo >/dev/null; command -v true; x=$(command -v nosuch); echo $?`,
    `printf 'echo sourced $1; y=2\\n' > s; . ./s; echo $y; trap 'echo bye' 9; echo ok`,
    `seq 1000000 | head -2; yes 2>/dev/null | head -1 || true; seq 5 | tail -n +4; seq 100 | grep -m1 7`,
    `sleep 0 & wait; echo $?; (exit 2) & wait; true`,
    `x=$(cat <<E\nin $((2*2))\nE\n); echo "$x"; if read l <<< word; then echo $l; fi`,
  ],
  files: [
    `mkdir -p a/b/c; touch a/b/f; ls a; ls -d a; ls a/b; rm -r a; ls -A; rmdir x 2>/dev/null; echo $?`,
    `echo 1 > x; cp x y; mv y z; cat z; mkdir d; cp x z d; ls d; mv d e; ls; rm -f nothing; rm x z; ls`,
    `mkdir d; cp d e 2>/dev/null; echo $?; cp -r d e; ls; rm d 2>/dev/null; echo $?; mkdir d 2>/dev/null; echo $?; rmdir d e`,
    `touch a1 a2 b1 .h; echo a* *1 [!a]* ? ?? .h* 'a*' nothing*; echo *; set -f; echo *`,
    `mkdir d; touch d/x.txt d/y.txt z.txt; echo */*.txt *.txt; for f in d/*; do basename $f .txt; done; dirname d/x.txt /a a /`,
    `mkdir -p p/q; touch p/1.log p/q/2.log p/3.txt; find p -name '*.log' | sort; find p -type d | sort; find p -maxdepth 1 -type f | sort; find p -name '*.txt' -exec echo got {} \\;`,
    `mkdir p; touch p/a p/b; find p -type f -exec echo {} + | tr ' ' '\\n' | sort; find p -name a -delete; ls p; find p ! -name b | sort`,
    `printf abc > f; wc -c < f; stat -c '%s %n' f; chmod 755 f; stat -c %a f; chmod u-x,g=r f; stat -c '%a %A' f; [ -x f ]; echo $?`,
    `printf 'a\\nb\\n' > x; printf 'a\\nc\\n' > y; cmp x y; echo $?; cmp -s x x; echo $?; md5sum x; sha1sum < y; sha256sum x y`,
    `cd /; pwd; cd - > /dev/null; mkdir k; cd k; basename "$PWD"; cd ..; cd nowhere 2>/dev/null; echo $?`,
  ],
  text: [
    `printf 'b\\na\\nc\\na\\n' | sort; printf 'b\\na\\nc\\na\\n' | sort -u; printf '10\\n9\\n2\\n' | sort -n; printf '10\\n9\\n2\\n' | sort; printf 'x 2\\ny 1\\n' | sort -k2; printf '1\\n2\\n' | sort -r`,
    `printf 'a:3\\nb:1\\n' | sort -t: -k2 -n; printf 'a\\na\\nb\\na\\n' | uniq; printf 'a\\na\\nb\\n' | uniq -c; printf 'a\\na\\nb\\n' | uniq -d; printf 'a\\na\\nb\\n' | uniq -u`,
    `printf 'a:b:c\\n' | cut -d: -f2; printf 'a:b:c\\n' | cut -d: -f1,3; printf 'abcdef\\n' | cut -c2-4; printf 'a\\tb\\n' | cut -f2; printf 'a:b:c:d\\n' | cut -d: -f2-`,
    `printf 'Hello\\n' | tr a-z A-Z; printf 'a  b\\n' | tr -s ' '; printf 'a1b2\\n' | tr -d 0-9; printf 'a,b\\n' | tr , '\\n'; printf 'ab1\\n' | tr -cd 'a-z\\n'; printf 'x\\r\\n' | tr -d '\\r'`,
    `printf 'one\\ntwo\\nthree\\n' > f; head -n 1 f; head -2 f; tail -1 f; tail -n 2 f; tail -n +2 f; head -c 3 f; echo; wc -l f; wc -w < f; tac f; rev f; nl f`,
    `printf 'one\\ntwo\\nthree\\n' > f; grep t f; grep -v t f; grep -c t f; grep -n o f; grep -i TWO f; grep -o 't[a-z]*' f; grep -w on f; echo $?; grep -q two f; echo $?; grep zz f; echo $?`,
    `printf 'a+b\\naab\\n(x)\\n' > f; grep 'a+b' f; grep -E 'a+b' f; grep -F 'a+b' f; egrep '^(a|\\()' f; grep '(x)' f; grep '^[^a]' f; grep 'a\\{2\\}' f; grep -x aab f; grep -e x f`,
    `printf 'k=v\\nkey=val ue\\n' | sed 's/=/: /'; printf 'aaa\\n' | sed 's/a/b/g'; printf 'abc\\n' | sed 's/\\(a\\)\\(b\\)/\\2\\1/'; printf 'abc\\n' | sed -E 's/(b)(c)/[\\2&\\1]/'`,
    `seq 5 | sed -n 2p; seq 5 | sed 2d; seq 5 | sed -n '2,4p'; seq 5 | sed '/3/d'; seq 5 | sed '$d'; seq 5 | sed -n '$p'; seq 5 | sed 3q; seq 5 | sed '2,$s/^/x/'; seq 3 | sed -e 's/1/a/;s/2/b/'`,
    `printf 'a b\\n' | sed 's#a#/#'; printf 'x\\n' | sed 's/x/a\\/b/'; printf 'one two\\n' | sed 's/[[:space:]].*//'; seq 3 | sed '2!d'; seq 3 | sed '/2/i\\\nbefore'; echo t > f; sed -i s/t/u/ f; cat f`,
    `seq 3 | xargs; seq 4 | xargs -n 2 echo x; printf 'a b\\nc\\n' | xargs -n 1 echo; printf '' | xargs -r echo no; printf 'x\\0y z\\0' | xargs -0 -n 1 echo`,
    `seq 3; seq 2 4; seq 1 2 7; seq 3 -1 1; seq -s, 3; expr 1 + 2; expr 2 '*' 3; expr abc : 'a\\(.\\)'; expr abc : '.*'; expr 1 '>' 2; echo $?; expr a = a`,
    `printf '%s-%d|%5s|%-5s|%05d|%x|%o|%c\\n' a 3 b c 42 255 8 xyz; printf '%s\\n' a b c; printf '%d %d\\n' 1 2 3; printf 'no args\\n'; printf '%%|%.2s|%+d\\n' abc 5; printf '%b\\n' 'a\\tb'`,
    `printf 'a\\nb\\n' | paste -s -d, ; printf '1\\n2\\n' > x; printf 'a\\nb\\n' > y; paste x y; paste -d: x y; echo hello | tee f | cat; cat f; echo more | tee -a f > /dev/null; cat f`,
    `printf 'Hi\\001there\\n' | strings; printf 'AB' | xxd; printf 'AB' | xxd -p; date -u -d @0 '+%Y-%m-%d %H:%M:%S %s %a %b %e %j' | cut -d' ' -f1-6; timeout 5 echo in time; true`,
    `timeout 0.1 sleep 5; echo $?; printf 'l1\\nl2\\n' | while read a; do echo $a; cat; done; printf 'x=1\\n' | { read l; eval "$l"; echo $x; }`,
  ],
};

describeWith('mksh', 'toybox')('everyday lines say and end as on a phone', () => {
  test.each(Object.entries(LINES).flatMap(([kind, all]) => all.map((line) => [kind, line] as const)))(
    '%s: %s',
    async (_, line) => {
      const [own, real] = await Promise.all([onPhone(line), asPhonesDo(line)]);
      expect({ out: own.out, code: own.code }).toEqual(real);
    },
  );

  test('scripts that nobody wrote by hand', async () => {
    const name = fc.constantFrom('a', 'b', 'c');
    const word = fc.oneof(
      fc.string({ unit: fc.constantFrom(...'xyz12 *?'.split('')), maxLength: 4 }).map((text) => `'${text}'`),
      fc.constantFrom('plain', '7', '"in quotes"', "''", 'x*'),
      name.map((one) => `$${one}`),
      name.map((one) => `"$${one}"`),
      fc
        .tuple(name, fc.constantFrom(':-d', '-d', ':+p', '#x', '%y', '##*x', '%%y*', ':1:2'))
        .map(([one, how]) => `"\${${one}${how}}"`),
      fc
        .tuple(name, fc.constantFrom('+', '*', '-', '<', '=='), fc.nat(9))
        .map(([one, sign, value]) => `$(( \${#${one}} ${sign} ${value} ))`),
    );
    const { script } = fc.letrec<{ script: string; command: string }>((tie) => ({
      command: fc.oneof(
        { depthSize: 'small' },
        fc.array(word, { maxLength: 4 }).map((words) => `printf '[%s]' ${words.join(' ')}; echo`),
        fc.tuple(name, word).map(([one, value]) => `${one}=${value}`),
        fc.constantFrom('true', 'false', '(exit 3)'),
        fc.tuple(word, word).map(([a, b]) => `[ ${a} = ${b} ]`),
        fc
          .tuple(tie('command'), fc.constantFrom('&&', '||'), tie('command'))
          .map(([a, sign, b]) => `{ ${a}; } ${sign} { ${b}; }`),
        fc
          .tuple(tie('script'), tie('script'), tie('script'))
          .map(([test, yes, no]) => `if ${test}\nthen ${yes}\nelse ${no}\nfi`),
        fc
          .tuple(name, fc.array(word, { maxLength: 3 }), tie('script'))
          .map(([one, words, body]) => `for ${one} in ${words.join(' ')}; do ${body}\ndone`),
        fc
          .tuple(word, word, tie('script'), tie('script'))
          .map(([value, pattern, a, b]) => `case ${value} in ${pattern}) ${a};; *) ${b};; esac`),
        tie('script').map((body) => `( ${body} )`),
        tie('script').map((body) => `echo "$( ${body} )"`),
        fc
          .tuple(tie('script'), fc.constantFrom('cat', 'sort', 'wc -l', 'tr x y', 'head -1'))
          .map(([body, tool]) => `{ ${body}; } | ${tool}`),
        fc.array(word, { maxLength: 3 }).map((words) => `cat <<E\n${words.join(' ')} $(echo in)\nE\n`),
      ) as fc.Arbitrary<string>,
      script: fc
        .array(tie('command'), { minLength: 1, maxLength: 3 })
        .map((all) => all.join('\n')) as fc.Arbitrary<string>,
    }));
    await fc.assert(
      fc.asyncProperty(script, async (one) => {
        const whole = `touch x1 x2; a=xyz b='x y' c=\n${one}\necho "$? $a $b $c"`;
        const [own, real] = await Promise.all([onPhone(whole), asPhonesDo(whole)]);
        expect({ out: own.out, code: own.code }).toEqual(real);
      }),
      { numRuns: Number(process.env.FENLOK_RUNS ?? 60) },
    );
  });
});

test('any words, quoted in either way, come out as they are', async () => {
  const word = fc.string({
    unit: fc.constantFrom(...'ab \t$"\'\\;|&<>#*\n(){}`!~å'.split('')),
    maxLength: 8,
  });
  const single = (text: string) => `'${text.replaceAll("'", "'\\''")}'`;
  const double = (text: string) => `"${text.replace(/[\\"$`]/g, '\\$&')}"`;
  await fc.assert(
    fc.asyncProperty(
      fc.array(word, { minLength: 1, maxLength: 6 }),
      fc.boolean(),
      async (words, isSingle) => {
        const { out } = await onPhone(
          `for w in ${words.map(isSingle ? single : double).join(' ')}; do printf '%s\\0' "$w"; done`,
        );
        expect(out.split('\0').slice(0, -1)).toEqual(words);
      },
    ),
  );
});

test('a script on standard input runs command by command, and the rest of it is what a command reads', async () => {
  const script =
    'x=1\nif [ $x = 1 ]\nthen echo yes\nfi\nread line\nthis is read\necho "got $line"\nexit 5\necho never\n';
  const { code, out } = await onPhone('', script, (os, _, streams) => runInput(os, streams));
  expect([code, out]).toEqual([5, 'yes\ngot this is read\n']);
});

test.each([
  ['nested deeply', `${'('.repeat(5_000)}`, 1],
  ['calls itself for ever', 'f() { f; }; f', 1],
  ['a quote that is never closed', 'echo "a', 1],
  ['then without if', 'then echo a; fi', 1],
  ['a bad name', 'for 1 in a; do :; done', 1],
  ['divides by zero', 'echo $((1/0))', 1],
])('what cannot be run ends with a word: %s', async (_, script, code) => {
  const ran = await onPhone(script);
  expect([ran.code, ran.err]).toEqual([code, expect.stringMatching(/^\/system\/bin\/sh: \S/)]);
});

test('a loop without an end ends when the other side hangs up', async () => {
  const os = new PhoneOs(shapes.common, nodePorts, []);
  const hangUp = new AbortController();
  const input = (async function* () {})();
  let said = 0;
  const out = () => {
    said += 1;
    if (said === 100) hangUp.abort();
  };
  await runLine(os, 'while :; do echo on; done', { input, out, err: () => {}, signal: hangUp.signal });
  expect(said).toBeGreaterThanOrEqual(100);
  os.close();
});
