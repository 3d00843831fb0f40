import { Button, Checkbox, NativeSelect, Popover } from '@mantine/core';
import { testClocks } from 'fenlok';
import { type Mistake, mistakes } from './model/careful-app.ts';
import { KELPLINE } from './model/kelpline-app.ts';
import type { Playing } from './use-rehearsal.ts';

/** Which app runs on the phones, what it does wrong, and how long periods last. */
export function AppChoice({ playing }: { playing: Playing }) {
  const { act } = playing;
  const { app, project } = playing.rehearsal;
  const made = app.is === 'careful' ? app.mistakes : [];
  return (
    <div className="app-choice">
      <NativeSelect
        label="App on both phones"
        data={[
          { value: 'careful', label: 'a plain one' },
          ...(project.intent.app.id === KELPLINE
            ? [{ value: 'kelpline', label: 'Kelpline, the candidate' }]
            : []),
        ]}
        value={app.is}
        onChange={({ currentTarget }) =>
          act({ do: 'app', isKelpline: currentTarget.value === 'kelpline', mistakes: [] })
        }
      />
      {app.is === 'careful' && (
        <Popover position="bottom-start" shadow="md" trapFocus>
          <Popover.Target>
            <Button variant="outline">Its mistakes: {made.length || 'none'} ▾</Button>
          </Popover.Target>
          <Popover.Dropdown>
            <Checkbox.Group
              label="The app …"
              value={[...made]}
              onChange={(names) => act({ do: 'app', isKelpline: false, mistakes: names as Mistake[] })}
            >
              {Object.entries(mistakes).map(([name, says]) => (
                <Checkbox key={name} value={name} label={says} className="mistake" />
              ))}
            </Checkbox.Group>
          </Popover.Dropdown>
        </Popover>
      )}
      <NativeSelect
        label="Periods are"
        data={[
          { value: '', label: 'as sold' },
          ...testClocks.map(({ id, name }) => ({ value: id, label: `as in: ${name}` })),
        ]}
        value={playing.testClock ?? ''}
        onChange={({ currentTarget }) => playing.begin(currentTarget.value || undefined)}
      />
    </div>
  );
}
