/**
 * Resources that came with a library and not with the app, by their names: a compiled package no longer says where a
 * resource is from. The names are those of the libraries' own resource folders (AndroidX and Compose in the Android Open
 * Source Project; material-components-android; Google Play services and Firebase in their AARs; Media3 / ExoPlayer).
 *
 * Names that an app could use as well count only with the library's own English text.
 */

// Names, and with a star beginnings of names, that nobody else has reason to use.
const NAMES: Record<string, readonly string[]> = {
  'androidx.appcompat': ['abc_*', '$abc_*', 'tooltip_frame_dark', 'tooltip_frame_light'],
  'androidx.core': [
    'call_notification_*',
    'compat_*',
    'ic_call_answer*',
    'ic_call_decline*',
    'notification_action_background',
    'notification_bg',
    'notification_bg_low*',
    'notification_bg_normal*',
    'notification_icon_background',
    'notification_oversize_large_icon_bg',
    'notification_template_icon_*',
    'notification_tile_bg',
    'notify_panel_notification_icon_bg',
    'status_bar_notification_info_*',
  ],
  'androidx.preference': [
    'expand_button_title',
    'preference_copied',
    'preference_list_divider_material',
    'preference_wrapped_icon',
    'summary_collapsed_preference_list',
    'v7_preference_*',
  ],
  'androidx.leanback': ['lb_*', 'orb_search_action'],
  'androidx.mediarouter': ['ic_mr_*', 'mr_*'],
  'androidx.media3': ['exo_*', 'media3_*'],
  'androidx.biometric': [
    'confirm_device_credential_password',
    'default_error_msg',
    'fingerprint_dialog_*',
    'fingerprint_error_*',
    'fingerprint_not_recognized',
  ],
  'androidx.wear': [
    'buttons_rect_*',
    'buttons_round_*',
    'complicationDrawable_*',
    'generic_confirmation_*',
    'ws_*',
  ],
  'androidx.navigation': [
    'dest_title',
    'nav_app_bar_navigate_up_description',
    'nav_app_bar_open_drawer_description',
  ],
  'androidx.startup': ['androidx_startup'],
  'androidx.browser': ['fallback_menu_item_*'],
  'androidx.credentials': ['androidx_credentials_*'],
  material: [
    '$avd_hide_password*',
    '$avd_show_password*',
    '$m3_*',
    '$mtrl_*',
    'appbar_scrolling_view_behavior',
    'avd_hide_password*',
    'avd_show_password*',
    'bottom_sheet_behavior',
    'bottomsheet_action_*',
    'bottomsheet_drag_handle_*',
    'character_counter_content_description',
    'character_counter_overflowed_content_description',
    'character_counter_pattern',
    'clear_text_end_icon_content_description',
    'design_bottom_*',
    'design_fab_background',
    'design_ic_visibility*',
    'design_password_eye',
    'design_snackbar_background',
    'error_a11y_label',
    'error_icon_content_description',
    'exposed_dropdown_menu_content_description',
    'fab_transformation_*',
    'hide_bottom_view_on_scroll_behavior',
    'ic_arrow_back_black_24',
    'ic_clear_black_24',
    'ic_clock_black_24dp',
    'ic_keyboard_black_24dp',
    'ic_m3_*',
    'ic_mtrl_*',
    'ic_search_black_24',
    'icon_content_description',
    'item_view_role_description',
    'm3_*',
    'm3c_*',
    'material_clock_*',
    'material_hour_*',
    'material_ic_*',
    'material_minute_*',
    'material_motion_*',
    'material_slider_*',
    'material_timepicker_*',
    'mtrl_*',
    'navigation_empty_icon',
    'password_toggle_content_description',
    'path_password_*',
    'searchbar_scrolling_view_behavior',
    'searchview_clear_text_content_description',
    'searchview_navigation_content_description',
    'side_sheet_*',
    'test_toolbar_*',
  ],
  'Google Play services': [
    'com_google_android_gms_*',
    'common_full_open_on_phone',
    'common_google_*',
    'common_open_on_phone',
    'common_signin_button_*',
    'gcm_defaultSenderId',
    'gcm_fallback_notification_channel_label',
    'google_api_key',
    'google_app_id',
    'google_crash_reporting_api_key',
    'google_storage_bucket',
    'googleg_*',
  ],
  Firebase: [
    'com_google_firebase_*',
    'default_web_client_id',
    'fcm_fallback_*',
    'firebase_database_url',
    'ga_trackingId',
  ],
  Facebook: ['com_facebook_*'],
};

// Compose, Godot and others put plain names into the app's own space: the English text tells them from the app's.
const WITH_TEXT: Record<string, Record<string, string>> = {
  'androidx.appcompat': { search_menu_title: 'Search', navigation_drawer_action: 'Open navigation drawer' },
  'androidx.compose': {
    autofill: 'Autofill',
    close_drawer: 'Close navigation menu',
    close_sheet: 'Close sheet',
    collapsed: 'Collapsed',
    default_error_message: 'Invalid input',
    default_popup_window_title: 'Pop-Up Window',
    dialog: 'Dialog',
    dropdown_menu: 'Dropdown menu',
    expanded: 'Expanded',
    in_progress: 'In progress',
    indeterminate: 'Partially checked',
    navigation_menu: 'Navigation menu',
    not_selected: 'Not selected',
    off: 'Off',
    on: 'On',
    range_end: 'Range end',
    range_start: 'Range start',
    selected: 'Selected',
    snackbar_pane_title: 'Alert',
    state_empty: 'Empty',
    state_off: 'Off',
    state_on: 'On',
    switch_role: 'Switch',
    tab: 'Tab',
    template_percent: '%1$d percent.',
    tooltip_description: 'tooltip',
    tooltip_label: 'show tooltip',
  },
  'androidx.wear': { navigation_drawer_content_description: 'Navigation drawer' },
};

// Of layouts alone: an app may well call another kind of resource so.
const LAYOUTS: Record<string, readonly string[]> = {
  'androidx.appcompat': ['select_dialog_*_material', 'support_simple_spinner_dropdown_item'],
  'androidx.browser': ['browser_actions_*'],
  'androidx.core': [
    'custom_dialog',
    'ime_base_split_test_activity',
    'ime_secondary_split_test_activity',
    'notification_action*',
    'notification_media_*',
    'notification_template_*',
    'splash_screen_view',
  ],
  'androidx.leanback': ['leanback_*', 'video_surface_fragment'],
  'androidx.preference': ['expand_button', 'image_frame', 'preference', 'preference_*'],
  'androidx.wear': [
    'accept_deny_dialog',
    'action_drawer_*',
    'navigation_drawer_item_view',
    'navigation_drawer_view',
    'overlay_confirmation',
    'single_page_nav_drawer_*',
    'wearable_*',
  ],
  'Google Play services': ['cast_*'],
  material: ['design_*', 'material_*', 'text_view_with_*', 'test_*'],
};

const byName = new Map<string, { library: string; text: string }>(
  Object.entries(WITH_TEXT).flatMap(([library, names]) =>
    Object.entries(names).map(([name, text]) => [name, { library, text }] as const),
  ),
);
class NameTable {
  private readonly exact = new Map<string, string>();
  private readonly patterns: { library: string; beginning: string; end: string }[] = [];

  constructor(table: Record<string, readonly string[]>) {
    for (const [library, names] of Object.entries(table))
      for (const name of names) {
        const [beginning = '', end] = name.split('*');
        if (end === undefined) this.exact.set(name, library);
        else this.patterns.push({ library, beginning, end });
      }
  }

  libraryOf(name: string): string | undefined {
    const fits = ({ beginning, end }: { beginning: string; end: string }) =>
      name.startsWith(beginning) && name.endsWith(end);
    return this.exact.get(name) ?? this.patterns.find(fits)?.library;
  }
}

const allKinds = new NameTable(NAMES);
const layouts = new NameTable(LAYOUTS);

/**
 * The library that a resource came with, by name.
 *
 * @param name with or without its type: `drawable/abc_ic_ab_back`, `abc_action_bar_up_description`
 * @param sourceText of a string: its text in the source language
 */
export function libraryOf(name: string, sourceText?: string): string | undefined {
  const plain = name.slice(name.lastIndexOf('/') + 1);
  const known = byName.get(plain);
  if (known && known.text.toLowerCase() === sourceText?.toLowerCase()) return known.library;
  return allKinds.libraryOf(plain) ?? (name.startsWith('layout/') ? layouts.libraryOf(plain) : undefined);
}
