import type { BackupFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** What the system copies away and brings back: it decides what is restored on a new device. */
export const observeBackup = {
  id: 'backup',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.android) return;
    const { backup, manifest } = app.android;
    yield {
      kind: 'backup',
      platform: app.platform,
      evidence: digest,
      minSdk: manifest.minSdk,
      targetSdk: manifest.targetSdk,
      allowBackup: manifest.application.allowBackup,
      hasAgent: manifest.application.backupAgent !== '',
      rules: backup,
    } satisfies BackupFact;
  },
} satisfies PackageObserver;
