/**
 * Words that say nothing to a person when they are all of a name, by language.
 *
 * Roles: as screen readers of the two platforms say them in that language. States: as the platforms' own switches are
 * labelled. Classes: the platforms' public toolkits. Fillers: what templates, previews and design tools put in.
 */
import type { Role } from './roles.ts';

const ROLE_WORDS: Partial<Record<Role, readonly string[]>> = {
  button: [
    'button',
    'btn',
    'schaltfläche',
    'taste',
    'knapp',
    'przycisk',
    'زر',
    'bouton',
    'botón',
    'botão',
    'knop',
    'pulsante',
    'кнопка',
  ],
  link: ['link', 'verknüpfung', 'lenke', 'łącze', 'رابط', 'lien', 'enlace', 'collegamento', 'ссылка'],
  image: [
    'image',
    'icon',
    'bild',
    'bilde',
    'ikon',
    'ikona',
    'obraz',
    'صورة',
    'أيقونة',
    'icône',
    'imagen',
    'imagem',
    'immagine',
    'afbeelding',
    'изображение',
  ],
  heading: ['heading', 'überschrift', 'overskrift', 'nagłówek', 'عنوان', 'titre'],
  checkbox: [
    'checkbox',
    'check box',
    'kontrollkästchen',
    'avmerkingsboks',
    'pole wyboru',
    'مربع اختيار',
    'case à cocher',
    'casilla',
  ],
  switch: ['switch', 'toggle', 'schalter', 'bryter', 'przełącznik', 'مفتاح', 'interrupteur', 'interruptor'],
  radio: ['radio button', 'optionsfeld', 'alternativknapp', 'przycisk opcji', 'زر اختيار', 'bouton radio'],
  tab: ['tab', 'registerkarte', 'fane', 'karta', 'علامة تبويب', 'onglet', 'pestaña'],
  field: [
    'text field',
    'textfield',
    'edit box',
    'textfeld',
    'tekstfelt',
    'pole tekstowe',
    'حقل نص',
    'champ de texte',
  ],
  searchField: ['search field', 'suchfeld', 'søkefelt', 'pole wyszukiwania'],
  slider: ['slider', 'seekbar', 'schieberegler', 'skyveknapp', 'suwak', 'شريط تمرير', 'curseur'],
  progress: [
    'progress bar',
    'progressbar',
    'fortschrittsbalken',
    'fremdriftslinje',
    'pasek postępu',
    'شريط التقدم',
  ],
};

/** Of a picture that can be tapped: its name may end so, and is read with "button" behind it. */
const ICON_WORDS = [
  'icon',
  'symbol',
  'ikon',
  'ikona',
  'أيقونة',
  'icône',
  'icono',
  'ícone',
  'icona',
  'pictogram',
  'значок',
  'иконка',
];

export const roleWords = (role: Role): readonly string[] => ROLE_WORDS[role] ?? [];
export const iconWords: readonly string[] = ICON_WORDS;

const ENGLISH_ROLES = new Set([
  ...['button', 'btn', 'link', 'image', 'icon', 'heading', 'checkbox', 'check box', 'switch', 'toggle'],
  ...['radio button', 'tab', 'text field', 'textfield', 'edit box', 'search field', 'slider', 'progress bar'],
]);
export const isEnglishRole = (word: string): boolean => ENGLISH_ROLES.has(word);

/** What English controls tell to do, as a verb: behind a role word it is the name, and the role is said twice. */
const ACTION_WORDS = new Set([
  ...[
    'accept',
    'add',
    'apply',
    'archive',
    'back',
    'book',
    'browse',
    'buy',
    'call',
    'cancel',
    'clear',
    'close',
  ],
  ...[
    'confirm',
    'continue',
    'copy',
    'create',
    'decline',
    'delete',
    'dismiss',
    'done',
    'download',
    'edit',
    'exit',
  ],
  ...['finish', 'follow', 'go', 'hide', 'install', 'join', 'leave', 'like', 'log', 'login', 'logout', 'mute'],
  ...[
    'next',
    'ok',
    'open',
    'pause',
    'pay',
    'play',
    'post',
    'previous',
    'print',
    'read',
    'refresh',
    'register',
  ],
  ...[
    'reload',
    'remove',
    'reply',
    'reset',
    'retry',
    'save',
    'search',
    'see',
    'select',
    'send',
    'share',
    'show',
  ],
  ...['sign', 'skip', 'start', 'stop', 'submit', 'to', 'try', 'undo', 'update', 'upload', 'view', 'watch'],
]);
export const isActionWord = (word: string): boolean => ACTION_WORDS.has(word);

const STATE_WORDS = new Set([
  ...[
    'on',
    'off',
    'checked',
    'unchecked',
    'not checked',
    'selected',
    'not selected',
    'enabled',
    'disabled',
    'expanded',
    'collapsed',
  ],
  ...['ein', 'aus', 'an', 'ausgewählt', 'nicht ausgewählt', 'aktiviert', 'deaktiviert'],
  ...['på', 'av', 'valgt', 'ikke valgt'],
  ...['wł', 'wył', 'włączone', 'wyłączone', 'włączony', 'wyłączony', 'zaznaczone', 'wybrane'],
  ...['تشغيل', 'إيقاف', 'محدد', 'غير محدد', 'مفعل', 'معطل'],
  ...[
    'activé',
    'désactivé',
    'activado',
    'desactivado',
    'ativado',
    'desativado',
    'вкл',
    'выкл',
    'включено',
    'выключено',
  ],
]);
export const isStateWord = (words: string): boolean => STATE_WORDS.has(words);

const CLASS_NAMES =
  /^(android\.(view|widget)\.\w+|(androidx|com\.google\.android\.material)\.[\w.]+|(AppCompat|Material|Image|Text|Button|Check|Radio|Switch|Edit|View|Frame|Linear|Relative|Constraint|Recycler|Scroll|List|Card|Web|Floating)\w*(View|Button|Box|Layout|Text|Group|Compat)|(UI|NS)[A-Z]\w+|RCT\w+|Flutter\w+View|ViewGroup|TextView|ImageView)$/;
export const isClassName = (name: string): boolean => CLASS_NAMES.test(name);

/** Nothing that anybody would call a control. */
const FILLERS = [
  /^(null|undefined|nan|nil|none|\(null\)|optional\(.*\)|\[object \w+\])$/i,
  /^lorem ipsum/i,
  /^(todo|fixme|tbd|xxx+|asdf\w*|qwerty|foo|bar|foobar|blah|dummy|placeholder( (text|image))?|sample text|your text here|insert text( here)?|alt text|content ?description|accessibility ?label|description here|untitled(-\d+)?|no name|unnamed|unlabell?ed)$/i,
  /^(%(\d+\$)?[sd@]|\{\{?\w*\}?\}|\$(\{\w*\}|[A-Za-z_]\w*)|<\w+>|@\{\w+\})$/,
];
export const isFiller = (name: string): boolean => FILLERS.some((filler) => filler.test(name));
/** Of a mock-up, or meant: "Title" may be the label of a field. */
const PERHAPS_FILLERS =
  /^(title|subtitle|label|text|item|test|string|header|body|caption|description|element|name here)( ?\d+)?$/i;
export const isPerhapsFiller = (name: string): boolean => PERHAPS_FILLERS.test(name);
