/** The words of every finding, apart from the logic: reports, JSON and pages share them. */

import { accessibilityWords } from './accessibility/words.ts';
import { adsWords } from './ads/words.ts';
import { candidateWords } from './candidate/words.ts';
import { contrastWords } from './contrast/words.ts';
import { lifecycleWords } from './lifecycle/words.ts';
import { linksWords } from './links/words.ts';
import { localizationWords } from './localization/words.ts';
import { purchasesWords } from './purchases/words.ts';
import { pushWords } from './push/words.ts';
import { qualityWords } from './quality/words.ts';
import { resourcesWords } from './resources/words.ts';
import type { AreaWords } from './words.ts';

export const messages: AreaWords = {
  ...candidateWords,
  ...accessibilityWords,
  ...contrastWords,
  ...localizationWords,
  ...lifecycleWords,
  ...linksWords,
  ...pushWords,
  ...purchasesWords,
  ...adsWords,
  ...qualityWords,
  ...resourcesWords,
};
