// Written by scripts/generate.mjs from checklists/mobile-release.yaml: npm run generate
import type { z } from 'zod';
import type { checklistSchema } from '../model/checklist.ts';

/** As it is written: defaults are not filled in. */
export const mobileRelease: z.input<typeof checklistSchema> = {
  "fenlok": "checklist/1",
  "name": "mobile-release",
  "items": [
    {
      "id": "candidate.identity",
      "area": "candidate",
      "shows": "The package can be read and names one build: app id, version, build number and a digest of its code.",
      "level": "blocking",
      "by": {
        "checks": [
          "nameless-build",
          "unread-part"
        ]
      }
    },
    {
      "id": "candidate.evidence-of-this-build",
      "area": "candidate",
      "shows": "Every capture and trace was taken on this build, and not on the one before the fix.",
      "level": "blocking",
      "by": {
        "checks": [
          "asserted-evidence"
        ]
      }
    },
    {
      "id": "candidate.release-variant",
      "area": "candidate",
      "shows": "What is judged is the release variant, signed for release, not debuggable, and shrunk as it will ship, with what shrinking may break tried out.",
      "level": "blocking",
      "by": {
        "checks": [
          "debug-build",
          "release-signature"
        ],
        "person": true
      },
      "steps": [
        "Install the very file that goes to the store, not a build from the editor.",
        "Try what shrinking may break: what is looked up by name, JSON that is read into classes, native calls, the crash reporter.",
        "Look for: a screen that stays empty, a crash with a class or method that is not found."
      ]
    },
    {
      "id": "candidate.version-raised",
      "area": "candidate",
      "shows": "Version and build number are higher than those of the build in the store.",
      "level": "blocking",
      "by": {
        "checks": [
          "version-not-raised"
        ]
      }
    },
    {
      "id": "candidate.entitlements",
      "area": "candidate",
      "shows": "What the executable is signed to be allowed is what its provisioning profile allows.",
      "level": "blocking",
      "platforms": [
        "ios"
      ],
      "by": {
        "checks": [
          "entitlement-mismatch"
        ]
      }
    },
    {
      "id": "candidate.reach",
      "area": "candidate",
      "shows": "The store offers it to every device that it is meant for.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "implied-feature"
        ]
      }
    },
    {
      "id": "candidate.devices",
      "area": "candidate",
      "shows": "It was looked at on every device that fenlok.yaml names: several densities, a small and a large phone, a foldable, a tablet.",
      "level": "blocking",
      "by": {
        "checks": [
          "device-spread"
        ]
      }
    },
    {
      "id": "candidate.as-declared",
      "area": "candidate",
      "shows": "What fenlok.yaml declares is what the candidate has: screens, languages, links, ad placements, channels.",
      "level": "advisory",
      "by": {
        "checks": [
          "declared-unseen",
          "seen-undeclared"
        ]
      }
    },
    {
      "id": "candidate.every-screen",
      "area": "candidate",
      "shows": "Every screen was reached and captured, in light and dark and in each planned language.",
      "level": "blocking",
      "by": {
        "drill": "capture-sweep"
      }
    },
    {
      "id": "candidate.explored",
      "area": "candidate",
      "shows": "A walk that nobody scripted, with the given sign-in, found no crash.",
      "level": "advisory",
      "by": {
        "drill": "roam"
      }
    },
    {
      "id": "candidate.walk-looked-at",
      "area": "candidate",
      "shows": "People looked through the pictures of a walk, in both orientations, and found no dead end.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Open the map of the walk in the report, and the pictures of it, upright and sideways.",
        "Look for: a screen with no way out, one that stays empty, one that the intent file does not name."
      ]
    },
    {
      "id": "a11y.names",
      "area": "accessibility",
      "shows": "Everything that can be acted on has a name.",
      "level": "blocking",
      "by": {
        "checks": [
          "unnamed-control"
        ]
      }
    },
    {
      "id": "a11y.names-meaningful",
      "area": "accessibility",
      "shows": "No name is a file name, a resource id or the name of its role.",
      "level": "blocking",
      "by": {
        "checks": [
          "meaningless-name",
          "role-in-name"
        ]
      }
    },
    {
      "id": "a11y.names-distinct",
      "area": "accessibility",
      "shows": "On one screen, stops that do different things have different names.",
      "level": "blocking",
      "by": {
        "checks": [
          "same-name"
        ]
      }
    },
    {
      "id": "a11y.label-in-name",
      "area": "accessibility",
      "shows": "The visible text of a control is part of its name, so that it can be spoken.",
      "level": "blocking",
      "by": {
        "checks": [
          "label-in-name"
        ]
      }
    },
    {
      "id": "a11y.roles",
      "area": "accessibility",
      "shows": "No element has contradictory roles, and a role says what the element does.",
      "level": "blocking",
      "by": {
        "checks": [
          "role-conflict"
        ]
      }
    },
    {
      "id": "a11y.state-spoken",
      "area": "accessibility",
      "shows": "Checked, selected, expanded and disabled are said, not only shown.",
      "level": "blocking",
      "by": {
        "checks": [
          "unspoken-state"
        ]
      }
    },
    {
      "id": "a11y.fields-labelled",
      "area": "accessibility",
      "shows": "Every input field has a label that stays when something is typed.",
      "level": "blocking",
      "by": {
        "checks": [
          "field-label"
        ]
      }
    },
    {
      "id": "a11y.images",
      "area": "accessibility",
      "shows": "Every image is either named or marked as decoration.",
      "level": "blocking",
      "by": {
        "checks": [
          "unnamed-picture"
        ]
      }
    },
    {
      "id": "a11y.headings",
      "area": "accessibility",
      "shows": "Long screens have headings that a reader can jump by.",
      "level": "advisory",
      "by": {
        "checks": [
          "no-heading"
        ]
      }
    },
    {
      "id": "a11y.reading-order",
      "area": "accessibility",
      "shows": "Stops come in the order in which the screen is meant to be read, in both layout directions.",
      "level": "blocking",
      "by": {
        "checks": [
          "reading-order"
        ]
      }
    },
    {
      "id": "a11y.target-size",
      "area": "accessibility",
      "shows": "Every touch target is at least 48 × 48 dp on Android and 44 × 44 pt on iOS.",
      "level": "blocking",
      "by": {
        "checks": [
          "small-target"
        ]
      }
    },
    {
      "id": "a11y.target-spacing",
      "area": "accessibility",
      "shows": "Targets do not overlap, and small ones stand far enough apart.",
      "level": "advisory",
      "by": {
        "checks": [
          "overlapping-targets",
          "crowded-target"
        ]
      }
    },
    {
      "id": "a11y.switch-reach",
      "area": "accessibility",
      "shows": "With two switches, every action can be reached, and so can the way back, on every screen.",
      "level": "blocking",
      "by": {
        "checks": [
          "unreachable-control"
        ],
        "drill": "switch-walk"
      }
    },
    {
      "id": "a11y.focus-seen",
      "area": "accessibility",
      "shows": "Whatever takes the focus can be seen.",
      "level": "blocking",
      "by": {
        "checks": [
          "unseen-focus"
        ]
      }
    },
    {
      "id": "a11y.switch-actions",
      "area": "accessibility",
      "shows": "What a long press or a swipe does is offered as a named action too.",
      "level": "blocking",
      "by": {
        "checks": [
          "hidden-gesture"
        ]
      }
    },
    {
      "id": "a11y.voice",
      "area": "accessibility",
      "shows": "Every actionable element can be called by a name that is unique on its screen.",
      "level": "advisory",
      "by": {
        "checks": [
          "voice-name",
          "same-name"
        ]
      }
    },
    {
      "id": "a11y.text-scaling",
      "area": "accessibility",
      "shows": "At 200 % text really grows, and nothing is lost, cut, overlapped or ellipsized.",
      "level": "blocking",
      "by": {
        "checks": [
          "text-scaling"
        ],
        "drill": "capture-sweep"
      }
    },
    {
      "id": "a11y.layouts",
      "area": "accessibility",
      "shows": "Layouts say what is to be read out, and leave room for larger text.",
      "level": "advisory",
      "by": {
        "checks": [
          "unnamed-in-layout",
          "fixed-text-size"
        ]
      }
    },
    {
      "id": "a11y.display-size",
      "area": "accessibility",
      "shows": "With the largest display size every screen still works.",
      "level": "advisory",
      "by": {
        "checks": [
          "display-setting"
        ],
        "drill": "capture-sweep",
        "procedures": [
          "display-large"
        ]
      }
    },
    {
      "id": "a11y.bold-text",
      "area": "accessibility",
      "shows": "With bold text and high-contrast text nothing is cut, and the setting takes effect.",
      "level": "advisory",
      "by": {
        "checks": [
          "display-setting"
        ],
        "drill": "capture-sweep",
        "procedures": [
          "bold-text",
          "high-contrast-text"
        ]
      }
    },
    {
      "id": "a11y.animations-off",
      "area": "accessibility",
      "shows": "With animations switched off nothing waits for one, and nothing still moves.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Hold animations off: fenlok hold --animations off",
        "Walk the main journeys.",
        "Look for: something that waits for an animation to end, and something that still moves."
      ]
    },
    {
      "id": "a11y.inversion",
      "area": "accessibility",
      "shows": "What can be read as it is can be read under colour inversion, too.",
      "level": "advisory",
      "by": {
        "checks": [
          "inverted-contrast"
        ]
      }
    },
    {
      "id": "a11y.colour-vision",
      "area": "accessibility",
      "shows": "Marks and texts of one kind do not differ by colours alone that become alike for people with protanopia, deuteranopia or tritanopia.",
      "level": "blocking",
      "by": {
        "checks": [
          "colour-alone"
        ]
      }
    },
    {
      "id": "a11y.pictures-without-colour",
      "area": "accessibility",
      "shows": "Photos, charts and maps keep their meaning with colours inverted, corrected, and without any.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Hold inversion, then corrections and grey: fenlok hold --inversion; fenlok hold --correction deuteranomaly; fenlok hold --correction grey",
        "Look at each screen with photos, charts, maps, calendars or chosen states.",
        "Look for: photos turned to negatives, and anything that nobody could tell without its colour."
      ]
    },
    {
      "id": "a11y.timed-messages",
      "area": "accessibility",
      "shows": "Messages that leave by themselves stay at least as long as the user has set in the system.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Hold the time to act at two minutes: fenlok hold --time-to-act 120",
        "Bring up each message that leaves by itself.",
        "Look for: one that leaves sooner, above all one with a button."
      ]
    },
    {
      "id": "a11y.orientation",
      "area": "accessibility",
      "shows": "Every screen works in both orientations, unless one is essential.",
      "level": "advisory",
      "by": {
        "checks": [
          "rotated-screen"
        ],
        "drill": "rotate"
      }
    },
    {
      "id": "a11y.captions",
      "area": "accessibility",
      "shows": "Media has captions and audio description, and follows the system setting for them.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Switch captions on in the system's settings, and play each video and sound.",
        "Look for: speech without captions, what is only shown and never said, captions that ignore the chosen size and colour."
      ]
    },
    {
      "id": "a11y.reader-walk",
      "area": "accessibility",
      "shows": "The main journeys were walked with the platform's screen reader, eyes shut.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Switch the screen reader on, turn the screen's light down, and shut your eyes.",
        "Do each main journey from the home screen to its end: sign in, find, choose, pay, undo.",
        "Look for: silence, something read twice or out of order, focus that jumps away, a place that you cannot leave."
      ]
    },
    {
      "id": "a11y.lived-experience",
      "area": "accessibility",
      "shows": "People who use assistive technology every day have used this app; no tool replaces them.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Ask people who use a reader, switches, voice or large text every day to do the main journeys.",
        "Watch without helping, and write down where they stop.",
        "A tool cannot stand in for them: they know ways that no list has."
      ]
    },
    {
      "id": "contrast.text",
      "area": "contrast",
      "shows": "Every text stands out from what lies behind it: 4.5 to 1, large text 3 to 1.",
      "level": "blocking",
      "by": {
        "checks": [
          "text-contrast"
        ]
      }
    },
    {
      "id": "contrast.icons",
      "area": "contrast",
      "shows": "Icons, and the borders of fields, stand out at 3 to 1.",
      "level": "blocking",
      "by": {
        "checks": [
          "icon-contrast",
          "field-border"
        ]
      }
    },
    {
      "id": "contrast.theme-pairs",
      "area": "contrast",
      "shows": "Every pair of colours that a theme puts together passes, in light and in night.",
      "level": "advisory",
      "by": {
        "checks": [
          "theme-contrast"
        ]
      }
    },
    {
      "id": "contrast.on-pictures",
      "area": "contrast",
      "shows": "Text over photos and gradients is legible at its worst place.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Find each screen with text over a photo, a map or a gradient, and load the lightest and the darkest picture that it can have.",
        "Measure the worst place: fenlok try contrast --picture FILE --box X,Y,W,H",
        "Look for: a word that fades away."
      ]
    },
    {
      "id": "contrast.dark-theme",
      "area": "contrast",
      "shows": "Every screen was looked at in dark theme too; no light remnant, no vanished drawing.",
      "level": "blocking",
      "by": {
        "checks": [
          "light-remnant",
          "light-only-colour"
        ]
      }
    },
    {
      "id": "l10n.translated",
      "area": "localization",
      "shows": "Every text is there in every shipped language.",
      "level": "blocking",
      "by": {
        "checks": [
          "missing-translation"
        ]
      }
    },
    {
      "id": "l10n.placeholders",
      "area": "localization",
      "shows": "Every translation takes the same arguments as its source.",
      "level": "blocking",
      "by": {
        "checks": [
          "placeholder-mismatch",
          "message-syntax"
        ]
      }
    },
    {
      "id": "l10n.plurals",
      "area": "localization",
      "shows": "Every plural has the forms that its language needs, and none hard-codes a number.",
      "level": "blocking",
      "by": {
        "checks": [
          "plural-forms"
        ]
      }
    },
    {
      "id": "l10n.keys",
      "area": "localization",
      "shows": "Every key stands once in a catalogue, and every list is as long as its source.",
      "level": "blocking",
      "by": {
        "checks": [
          "duplicate-key",
          "list-length"
        ]
      }
    },
    {
      "id": "l10n.growth",
      "area": "localization",
      "shows": "No translation is much wider than its source leads to expect.",
      "level": "advisory",
      "by": {
        "checks": [
          "text-growth"
        ]
      }
    },
    {
      "id": "l10n.left-as-source",
      "area": "localization",
      "shows": "No translation is empty, left identical to the source by mistake, or of a key that the source no longer has.",
      "level": "advisory",
      "by": {
        "checks": [
          "empty-translation",
          "same-as-source",
          "extra-translation"
        ]
      }
    },
    {
      "id": "l10n.markup",
      "area": "localization",
      "shows": "Markup, escapes and apostrophes come out as meant.",
      "level": "blocking",
      "by": {
        "checks": [
          "markup-mismatch",
          "swallowed-escape"
        ]
      }
    },
    {
      "id": "l10n.characters",
      "area": "localization",
      "shows": "No stray blanks, mixed scripts, look-alike letters or invisible characters.",
      "level": "advisory",
      "by": {
        "checks": [
          "stray-space",
          "mixed-script",
          "invisible-character"
        ]
      }
    },
    {
      "id": "l10n.declared",
      "area": "localization",
      "shows": "The languages promised, declared and shipped are the same.",
      "level": "blocking",
      "by": {
        "checks": [
          "undeclared-locale",
          "orphaned-locale",
          "language-split"
        ]
      }
    },
    {
      "id": "l10n.on-screen",
      "area": "localization",
      "shows": "On the screens of each language, every text is in that language.",
      "level": "blocking",
      "by": {
        "checks": [
          "untranslated-on-screen",
          "hard-coded-text"
        ]
      }
    },
    {
      "id": "l10n.fits",
      "area": "localization",
      "shows": "No text is cut or ellipsized in any language.",
      "level": "blocking",
      "by": {
        "checks": [
          "cut-text"
        ]
      }
    },
    {
      "id": "l10n.formats",
      "area": "localization",
      "shows": "Dates, numbers and money are written as the language and region write them.",
      "level": "blocking",
      "by": {
        "checks": [
          "local-format"
        ]
      }
    },
    {
      "id": "l10n.rtl",
      "area": "localization",
      "shows": "Right-to-left layouts are mirrored, with drawings that point the right way.",
      "level": "blocking",
      "by": {
        "checks": [
          "not-mirrored",
          "no-mirroring"
        ],
        "person": true
      },
      "steps": [
        "Hold Arabic: fenlok hold --locale ar",
        "Walk every screen.",
        "Look for: arrows and progress that point the wrong way, numbers and names torn apart, things that must not be mirrored (clocks, media keys) and are."
      ]
    },
    {
      "id": "l10n.layouts",
      "area": "localization",
      "shows": "Layouts and interface files hold no texts of their own, and no left or right.",
      "level": "advisory",
      "by": {
        "checks": [
          "text-in-layout",
          "side-in-layout"
        ]
      }
    },
    {
      "id": "l10n.pseudo",
      "area": "localization",
      "shows": "Under pseudo-locales (longer, accented, mirrored) nothing is hard-coded or cut.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Build with pseudo-locales and hold each: fenlok hold --locale en-XA; fenlok hold --locale ar-XB",
        "Look for: words without accents or brackets, which are in no catalogue, and text that is cut."
      ]
    },
    {
      "id": "l10n.reviewed",
      "area": "localization",
      "shows": "Someone who speaks it has read each language on the screens.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Give each language to somebody who speaks it, on a phone, not as a table.",
        "Look for: a wrong form of address, a word for the wrong thing, a plural or a gender that does not fit."
      ]
    },
    {
      "id": "resources.defaults",
      "area": "resources",
      "shows": "Every resource has a value for devices that match no qualifier.",
      "level": "blocking",
      "by": {
        "checks": [
          "missing-default"
        ]
      }
    },
    {
      "id": "resources.sharp",
      "area": "resources",
      "shows": "No device on the list gets a picture that is scaled up and blurred.",
      "level": "advisory",
      "by": {
        "checks": [
          "blurred-picture"
        ]
      }
    },
    {
      "id": "resources.sizes",
      "area": "resources",
      "shows": "Pixel sizes follow 0.75 : 1 : 1.33 : 1.5 : 2 : 3 : 4 across densities.",
      "level": "advisory",
      "by": {
        "checks": [
          "picture-size"
        ]
      }
    },
    {
      "id": "resources.locale-density",
      "area": "resources",
      "shows": "No language folder takes away a density, and no night folder a translation.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-variant"
        ]
      }
    },
    {
      "id": "resources.low-density",
      "area": "resources",
      "shows": "Drawings are still clear on low-density screens, beside those of high density.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Put the app on a device of 240 dpi or less beside one of 480 or more, or hold it: fenlok hold --density 240",
        "Look for: lines that vanish, icons that blur, pictures cut at their edge."
      ]
    },
    {
      "id": "state.home-return",
      "area": "lifecycle",
      "shows": "Home and back: same screen, same state, same process.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "home-and-return"
      }
    },
    {
      "id": "state.icon-return",
      "area": "lifecycle",
      "shows": "Coming back through the icon leaves open what was open.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "launch-mode"
        ]
      }
    },
    {
      "id": "state.recents",
      "area": "lifecycle",
      "shows": "Over the recent apps and back: same screen and state.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "recents"
      }
    },
    {
      "id": "state.back",
      "area": "lifecycle",
      "shows": "Back leads to the expected parent from every screen; never a trap, never out from deep inside.",
      "level": "blocking",
      "by": {
        "checks": [
          "way-back"
        ],
        "drill": "back"
      }
    },
    {
      "id": "state.rotate",
      "area": "lifecycle",
      "shows": "Rotating keeps screen and state.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "rotate"
      }
    },
    {
      "id": "state.resize",
      "area": "lifecycle",
      "shows": "Folding, unfolding and resizing keep screen and state.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "resize"
      }
    },
    {
      "id": "state.discarded",
      "area": "lifecycle",
      "shows": "A screen that the system discarded while away comes back as it was left.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "lost-state",
          "lost-screen",
          "way-back"
        ],
        "drill": "discard"
      }
    },
    {
      "id": "state.process-death",
      "area": "lifecycle",
      "shows": "After the process was killed in the background, the same screen, state and way back are there.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen",
          "way-back"
        ],
        "drill": "process-death"
      }
    },
    {
      "id": "state.screen-off",
      "area": "lifecycle",
      "shows": "Screen off and on, lock and unlock, keep screen and state.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "screen-off"
      }
    },
    {
      "id": "state.network",
      "area": "lifecycle",
      "shows": "Network lost and back: no crash, same screen and state.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "network-lost"
      }
    },
    {
      "id": "state.offline",
      "area": "lifecycle",
      "shows": "Without network local data is served, and nobody is stuck.",
      "level": "blocking",
      "by": {
        "checks": [
          "stuck-offline"
        ],
        "drill": "offline"
      }
    },
    {
      "id": "state.low-battery",
      "area": "lifecycle",
      "shows": "With low battery and battery saver screen and state stay.",
      "level": "advisory",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "low-battery"
      }
    },
    {
      "id": "state.location-off",
      "area": "lifecycle",
      "shows": "With location off there is no crash, and screen and state stay.",
      "level": "blocking",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "location-off"
      }
    },
    {
      "id": "state.location-refused",
      "area": "lifecycle",
      "shows": "With the permission for location refused, nobody is stuck.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Refuse location at the question, and again in the system's settings.",
        "Do each journey that asks for it.",
        "Look for: a screen that stays empty, and a question that comes again and again."
      ]
    },
    {
      "id": "state.covered",
      "area": "lifecycle",
      "shows": "The notification shade over the screen: same screen and state afterwards.",
      "level": "advisory",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "covered"
      }
    },
    {
      "id": "state.interrupted",
      "area": "lifecycle",
      "shows": "A call, or a window of another app on top: same screen and state afterwards.",
      "level": "advisory",
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "interrupted"
      }
    },
    {
      "id": "state.permission-revoked",
      "area": "lifecycle",
      "shows": "A permission taken back while the app is away: no crash, same screen and state.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "lost-state",
          "lost-screen"
        ],
        "drill": "permission-revoked"
      }
    },
    {
      "id": "state.background-quiet",
      "area": "lifecycle",
      "shows": "After going home nothing keeps running that need not.",
      "level": "advisory",
      "by": {
        "checks": [
          "running-service"
        ],
        "drill": "background-services"
      }
    },
    {
      "id": "state.backup",
      "area": "lifecycle",
      "shows": "Backup takes along what a user would miss on a new device, and leaves secrets where they are, on every version of the system.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "backup-rules"
        ]
      }
    },
    {
      "id": "state.settings-put-back",
      "area": "lifecycle",
      "shows": "Every device setting that testing changed has been restored.",
      "level": "advisory",
      "by": {
        "checks": [
          "setting-left"
        ]
      }
    },
    {
      "id": "links.openable",
      "area": "links",
      "shows": "Every declared link filter can be opened from a browser.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "closed-link-filter"
        ]
      }
    },
    {
      "id": "links.routes-declared",
      "area": "links",
      "shows": "Every route that the app promises is declared, http and https, bare and www host, with and without trailing slash.",
      "level": "blocking",
      "by": {
        "checks": [
          "undeclared-route"
        ]
      }
    },
    {
      "id": "links.one-target",
      "area": "links",
      "shows": "No URL is for two of the app's own screens.",
      "level": "blocking",
      "by": {
        "checks": [
          "ambiguous-link"
        ]
      }
    },
    {
      "id": "links.verified",
      "area": "links",
      "shows": "Web links are verified: the site's association file names this app and the certificate it is signed with, and is served as JSON without a redirect.",
      "level": "blocking",
      "by": {
        "checks": [
          "unverified-domain"
        ]
      }
    },
    {
      "id": "links.not-too-broad",
      "area": "links",
      "shows": "The app catches no links that belong to others.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "broad-link-filter",
          "mixed-link-data"
        ]
      }
    },
    {
      "id": "links.needed",
      "area": "links",
      "shows": "Every link filter is needed by a route.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "needless-link-filter"
        ]
      }
    },
    {
      "id": "links.shortcuts",
      "area": "links",
      "shows": "Each shortcut of the launcher opens its screen, and what links open is on the device.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "dead-shortcut",
          "late-module"
        ]
      }
    },
    {
      "id": "links.land",
      "area": "links",
      "shows": "Each route, fired as a user would, lands on its screen with its arguments, cold and warm.",
      "level": "blocking",
      "by": {
        "checks": [
          "link-landing"
        ],
        "drill": "links"
      }
    },
    {
      "id": "links.back-chain",
      "area": "links",
      "shows": "From where a link lands, back leads somewhere sensible.",
      "level": "advisory",
      "by": {
        "checks": [
          "link-back"
        ],
        "drill": "links"
      }
    },
    {
      "id": "links.malformed",
      "area": "links",
      "shows": "A malformed or stale link leads to a kind fallback, never to a crash.",
      "level": "blocking",
      "by": {
        "checks": [
          "malformed-link"
        ],
        "drill": "links"
      }
    },
    {
      "id": "push.capability",
      "area": "push",
      "shows": "The capability is declared in the package, in the profile and for the right environment.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-setup",
          "push-environment"
        ]
      }
    },
    {
      "id": "push.permission",
      "area": "push",
      "shows": "Permission is asked, and both answers work.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-permission"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.permission-moment",
      "area": "push",
      "shows": "Permission is asked at a moment when the user sees what for.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Install it again and use the app until it asks for notifications.",
        "Look for: a question before the user knows what for, and one that cannot be put off."
      ]
    },
    {
      "id": "push.channels",
      "area": "push",
      "shows": "On Android every message has a channel, with a name in each language.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "payload-target",
          "channel-name"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.token",
      "area": "push",
      "shows": "A token is received and registered, and renewed after reinstalling.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-token"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.local",
      "area": "push",
      "shows": "A local test message is shown, before a remote one is tried.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "Send a local test message from the app's own debug screen, before any remote one.",
        "Look for: the right icon, text and sound, and the screen that a tap leads to."
      ]
    },
    {
      "id": "push.shown",
      "area": "push",
      "shows": "A remote message is shown in foreground, in background and when the app is not running.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-shown"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.tap",
      "area": "push",
      "shows": "A tap lands on the right screen, from each of these states.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-tap"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.actions",
      "area": "push",
      "shows": "Every action button does what it says.",
      "level": "blocking",
      "by": {
        "checks": [
          "push-action",
          "payload-target"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.badge",
      "area": "push",
      "shows": "Once a message was opened nothing of it is left, neither in the list of messages nor on the icon.",
      "level": "advisory",
      "by": {
        "checks": [
          "push-badge"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.silent",
      "area": "push",
      "shows": "Silent messages wake the app, and are sent as such.",
      "level": "advisory",
      "by": {
        "checks": [
          "push-silent"
        ],
        "drill": "push"
      }
    },
    {
      "id": "push.payload",
      "area": "push",
      "shows": "Payloads keep to the size and key rules of each platform.",
      "level": "blocking",
      "by": {
        "checks": [
          "payload-rules"
        ]
      }
    },
    {
      "id": "push.localized",
      "area": "push",
      "shows": "Localised message keys exist in every catalogue, with the right number of arguments, and their texts fit.",
      "level": "blocking",
      "by": {
        "checks": [
          "payload-texts"
        ]
      }
    },
    {
      "id": "push.scripted",
      "area": "push",
      "shows": "Sending and checking a message runs from a script.",
      "level": "advisory",
      "by": {
        "checks": [
          "scripted-push"
        ],
        "drill": "push"
      }
    },
    {
      "id": "iap.catalogue",
      "area": "purchases",
      "shows": "Every product that the app asks for is returned by the store, with the intended kind.",
      "level": "blocking",
      "by": {
        "checks": [
          "product-ids",
          "product-offer"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.sale-files",
      "area": "purchases",
      "shows": "Sales that the store signed hold: their signature, this app, a product that is meant.",
      "level": "advisory",
      "by": {
        "checks": [
          "signed-sale"
        ]
      }
    },
    {
      "id": "iap.localized",
      "area": "purchases",
      "shows": "Products have names and descriptions in each language, with no price or duration written into them.",
      "level": "blocking",
      "by": {
        "checks": [
          "product-texts"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.price-shown",
      "area": "purchases",
      "shows": "The price on the screen is the store's, in its currency and the local format.",
      "level": "blocking",
      "by": {
        "checks": [
          "shown-price",
          "written-price"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.terms",
      "area": "purchases",
      "shows": "Period, price and renewal stand beside the buy button.",
      "level": "blocking",
      "by": {
        "checks": [
          "purchase-terms"
        ]
      }
    },
    {
      "id": "iap.buy",
      "area": "purchases",
      "shows": "Buying grants the goods at once, with no relaunch.",
      "level": "blocking",
      "by": {
        "checks": [
          "missing-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.finish",
      "area": "purchases",
      "shows": "Every transaction is finished once, after the goods are granted.",
      "level": "blocking",
      "by": {
        "checks": [
          "unfinished-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.cancel",
      "area": "purchases",
      "shows": "A cancelled, failed or deferred purchase grants nothing, and the app says so.",
      "level": "blocking",
      "by": {
        "checks": [
          "unpaid-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.not-twice",
      "area": "purchases",
      "shows": "What is owned is not sold again.",
      "level": "blocking",
      "by": {
        "checks": [
          "resold-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.relaunch",
      "area": "purchases",
      "shows": "Purchases are there after a relaunch and after a fresh install.",
      "level": "blocking",
      "by": {
        "checks": [
          "missing-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.second-device",
      "area": "purchases",
      "shows": "On a second device, restoring brings purchases back.",
      "level": "blocking",
      "by": {
        "checks": [
          "unrestored-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.renewal",
      "area": "purchases",
      "shows": "Subscriptions renew, and nothing changes for the user.",
      "level": "blocking",
      "by": {
        "checks": [
          "missing-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.expiry",
      "area": "purchases",
      "shows": "What expires ends, and only that.",
      "level": "blocking",
      "by": {
        "checks": [
          "ended-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.refund",
      "area": "purchases",
      "shows": "Refunded and revoked goods are taken back.",
      "level": "blocking",
      "by": {
        "checks": [
          "ended-purchase"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "iap.grace",
      "area": "purchases",
      "shows": "Trials, introductory prices, grace period and account hold behave as the store describes.",
      "level": "advisory",
      "by": {
        "person": true
      },
      "steps": [
        "In a test store let a trial end, an introductory price pass, a payment fail, and be paid again in the grace period and after it.",
        "See when each comes: fenlok try renewals",
        "Look for: goods taken too soon, or kept too long, and no word to the user."
      ]
    },
    {
      "id": "iap.signed",
      "area": "purchases",
      "shows": "Signed transactions are verified, and forged ones refused.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Change one letter of a signed purchase on the way to your server, and send an old one again.",
        "Look for: goods that are given all the same."
      ]
    },
    {
      "id": "iap.quiet",
      "area": "purchases",
      "shows": "With everything expired, no purchase code runs in the background.",
      "level": "advisory",
      "by": {
        "checks": [
          "purchase-quiet"
        ],
        "drill": "purchases"
      }
    },
    {
      "id": "ads.wired",
      "area": "ads",
      "shows": "For each placement and network, library, connector, declarations and parameters are in place.",
      "level": "blocking",
      "by": {
        "checks": [
          "ad-wiring",
          "ad-parameter"
        ]
      }
    },
    {
      "id": "ads.trial-load",
      "area": "ads",
      "shows": "Each placement and network loaded once in test mode; no fill is tried again.",
      "level": "blocking",
      "by": {
        "checks": [
          "ad-load"
        ],
        "drill": "ads"
      }
    },
    {
      "id": "ads.test-mode",
      "area": "ads",
      "shows": "Development devices ask only for test ads, from the first request on.",
      "level": "blocking",
      "by": {
        "checks": [
          "live-ad-request"
        ],
        "drill": "ads"
      }
    },
    {
      "id": "ads.no-test-ids",
      "area": "ads",
      "shows": "No test placement ships in the release.",
      "level": "blocking",
      "by": {
        "checks": [
          "test-placement"
        ]
      }
    },
    {
      "id": "ads.order",
      "area": "ads",
      "shows": "Networks are initialised before the first load, and consent is asked before the first request.",
      "level": "blocking",
      "by": {
        "checks": [
          "ad-order"
        ],
        "drill": "ads"
      }
    },
    {
      "id": "ads.removed",
      "area": "ads",
      "shows": "After buying the removal of ads none is shown.",
      "level": "blocking",
      "by": {
        "checks": [
          "ad-after-removal"
        ],
        "drill": "ads"
      }
    },
    {
      "id": "ads.return",
      "area": "ads",
      "shows": "Closing an ad returns to where the user was.",
      "level": "blocking",
      "by": {
        "checks": [
          "ad-return"
        ],
        "drill": "ads"
      }
    },
    {
      "id": "ads.sellers",
      "area": "ads",
      "shows": "The sellers of every network are listed in app-ads.txt.",
      "level": "advisory",
      "by": {
        "checks": [
          "ad-seller"
        ]
      }
    },
    {
      "id": "ratings.asked",
      "area": "ratings",
      "shows": "The rating is asked at a fitting moment, through the platform's own prompt, and nothing waits for an answer.",
      "level": "advisory",
      "by": {
        "checks": [
          "rating-moment",
          "rating-manner",
          "rating-wait"
        ],
        "drill": "ratings"
      }
    },
    {
      "id": "ratings.channel",
      "area": "ratings",
      "shows": "It was tried in a channel in which it can appear, and its silence elsewhere is not taken for a failure.",
      "level": "advisory",
      "by": {
        "checks": [
          "rating-shown"
        ],
        "drill": "ratings"
      }
    },
    {
      "id": "quality.stable",
      "area": "quality",
      "shows": "No crash, and an answer to every touch, in all drills and on a walk that nobody scripted.",
      "level": "blocking",
      "by": {
        "checks": [
          "crash"
        ],
        "drill": "roam"
      }
    },
    {
      "id": "quality.logs",
      "area": "quality",
      "shows": "No crash, and no time without an answer, in the logs and crash reports of testers.",
      "level": "advisory",
      "by": {
        "checks": [
          "logged-crash"
        ]
      }
    },
    {
      "id": "quality.stalls",
      "area": "quality",
      "shows": "The user interface thread does not stall on any journey.",
      "level": "blocking",
      "by": {
        "checks": [
          "main-thread-work"
        ]
      }
    },
    {
      "id": "quality.left-behind",
      "area": "quality",
      "shows": "No window, receiver, connection or open file outlives the screen that made it.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "left-behind"
        ]
      }
    },
    {
      "id": "quality.start",
      "area": "quality",
      "shows": "The first screen, or a sign of life, is there within 2 seconds of a cold start.",
      "level": "blocking",
      "by": {
        "checks": [
          "slow-start"
        ],
        "drill": "cold-start"
      }
    },
    {
      "id": "quality.smooth",
      "area": "quality",
      "shows": "Lists scroll smoothly while images load, and media plays without stutter.",
      "level": "advisory",
      "by": {
        "checks": [
          "skipped-frames"
        ],
        "person": true
      },
      "steps": [
        "Scroll each long list fast while its pictures load, and play each medium.",
        "Look for: rows that jump, white gaps, sound that stutters."
      ]
    },
    {
      "id": "quality.upgrade",
      "area": "quality",
      "shows": "Installed over the shipped version, sign-in, data, settings and channels survive.",
      "level": "blocking",
      "by": {
        "drill": "upgrade"
      }
    },
    {
      "id": "quality.permissions",
      "area": "quality",
      "shows": "Every permission that is asked for is used, explained, and fits the age rating.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "permission-use"
        ]
      }
    },
    {
      "id": "quality.target-sdk",
      "area": "quality",
      "shows": "What the target SDK level changes was tried: edges, back gesture, service types, notifications.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "service-type",
          "target-level"
        ]
      }
    },
    {
      "id": "quality.native-code",
      "area": "quality",
      "shows": "Native libraries are there for 64 bits and aligned to 16 KB pages.",
      "level": "blocking",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "native-library"
        ]
      }
    },
    {
      "id": "quality.splits",
      "area": "quality",
      "shows": "Switching the language inside the app works in the bundle as the store splits it.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "person": true
      },
      "steps": [
        "Install from the store's test track, not from the file, and switch the language inside the app.",
        "Look for: texts of the old language, or keys in their place."
      ]
    },
    {
      "id": "quality.symbols",
      "area": "quality",
      "shows": "Symbols or the mapping file of this very build are kept.",
      "level": "advisory",
      "by": {
        "checks": [
          "kept-symbols"
        ]
      }
    },
    {
      "id": "quality.privacy",
      "area": "quality",
      "shows": "Privacy manifest, required-reason calls, usage descriptions in each language and the export-compliance key are there.",
      "level": "blocking",
      "platforms": [
        "ios"
      ],
      "by": {
        "checks": [
          "usage-description",
          "required-reason",
          "export-key"
        ]
      }
    },
    {
      "id": "quality.cleartext",
      "area": "quality",
      "shows": "No traffic goes without TLS, and only the system's certificates are trusted.",
      "level": "blocking",
      "by": {
        "checks": [
          "cleartext-traffic"
        ]
      }
    },
    {
      "id": "quality.exported",
      "area": "quality",
      "shows": "Nothing is open to other apps that should not be.",
      "level": "advisory",
      "platforms": [
        "android"
      ],
      "by": {
        "checks": [
          "needless-export"
        ]
      }
    },
    {
      "id": "quality.hygiene",
      "area": "quality",
      "shows": "No unused images, texts or code are shipped.",
      "level": "advisory",
      "by": {
        "checks": [
          "unused-resource"
        ]
      }
    },
    {
      "id": "listing.pictures",
      "area": "listing",
      "shows": "Icon, feature graphic and screenshots have the right pixel sizes and are legible when small.",
      "level": "blocking",
      "by": {
        "checks": [
          "listing-picture"
        ],
        "person": true
      },
      "steps": [
        "Look at icon, feature graphic and screenshots as small as the store shows them in a list.",
        "Look for: text that cannot be read, and a screen that no longer looks so."
      ]
    },
    {
      "id": "listing.no-other-platform",
      "area": "listing",
      "shows": "No other platform's device or name is in them.",
      "level": "blocking",
      "by": {
        "person": true
      },
      "steps": [
        "Look at each picture and text of the listing.",
        "Look for: another platform's device, bar, button or name."
      ]
    },
    {
      "id": "listing.texts",
      "area": "listing",
      "shows": "Texts keep within the limits of each store, in each language.",
      "level": "blocking",
      "by": {
        "checks": [
          "listing-text",
          "listing-word"
        ]
      }
    },
    {
      "id": "listing.languages",
      "area": "listing",
      "shows": "Every shipped language has a listing.",
      "level": "advisory",
      "by": {
        "checks": [
          "listing-language"
        ]
      }
    },
    {
      "id": "listing.known-bugs",
      "area": "listing",
      "shows": "Reproducible bugs from reviews have been fixed or answered.",
      "level": "advisory",
      "by": {
        "checks": [
          "known-bug"
        ]
      }
    }
  ]
};
