/** What roles are called, in the words that readers use for them, by language. */
import type { Role } from './roles.ts';

const WORDS: Partial<Record<Role, readonly string[]>> = {
  button: [
    'button',
    'schaltfläche',
    'taste',
    'knapp',
    'przycisk',
    'زر',
    'bouton',
    'botón',
    'botão',
    'knop',
    'кнопка',
  ],
  link: ['link', 'verknüpfung', 'lenke', 'łącze', 'رابط', 'lien', 'enlace', 'ссылка'],
  image: ['image', 'picture', 'icon', 'bild', 'bilde', 'obraz', 'صورة', 'imagen', 'imagem', 'изображение'],
  heading: ['heading', 'überschrift', 'overskrift', 'nagłówek', 'عنوان', 'titre'],
  checkbox: ['checkbox', 'check box', 'kontrollkästchen', 'avmerkingsboks', 'pole wyboru', 'مربع اختيار'],
  switch: ['switch', 'toggle', 'schalter', 'bryter', 'przełącznik', 'مفتاح'],
  radio: ['radio button', 'optionsfeld', 'alternativknapp', 'przycisk opcji'],
  tab: ['tab', 'registerkarte', 'fane', 'karta', 'علامة تبويب'],
  field: ['text field', 'edit box', 'textfeld', 'tekstfelt', 'pole tekstowe', 'حقل نص'],
  slider: ['slider', 'schieberegler', 'skyveknapp', 'suwak', 'شريط تمرير'],
};

export const roleWords = (role: Role): readonly string[] => WORDS[role] ?? [];
