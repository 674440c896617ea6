//! The panel: every key of a tuning, to be edited.

use egui::{
    Button, CollapsingHeader, Id, RichText, Role, ScrollArea, Sense, TextEdit, Ui, WidgetInfo,
};
use velvet_pan::{Rect, Setting, Settings, SettingsError, Value};
use velvet_pan_takes::{Fault, TuningFile};

use crate::field::field;
use crate::groups::{GROUPS, Group, ListedTable};
use crate::look::{HONEY, MIST, SPROUT};

/// What happened in a panel in this frame.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct PanelResponse {
    /// Whether a setting was changed. If so, pass the settings to the camera.
    pub changed: bool,
    /// Why the current settings can't be used, if so. The camera would refuse them.
    pub refused: Option<SettingsError>,
    /// Why saving failed, if it did.
    pub fault: Option<Fault>,
    /// The names of the cues whose button was pressed. Call them with [`Camera::cue`](velvet_pan::Camera::cue), at a
    /// position that the panel does not know, such as the player's.
    pub called: Vec<String>,
}

/// Shows all keys of a tuning file in groups, with a search box and buttons to save and to revert.
///
/// Each key shows its unit, and its help when the pointer is over it. A dot marks a key that differs from the file,
/// and a brighter name one that differs from the default; a button resets it. Numbers have a slider over the usual
/// range, and a field beside it accepts any allowed number. The panel fits into a width of 360 points and can be used
/// with the keyboard alone. For accessibility tools, a key's widget is named by the path of the key, such as
/// `zoom.half_life`.
///
/// ```no_run
/// # use velvet_pan_egui::{egui, tuning_panel, velvet_pan::Camera, velvet_pan_takes::TuningFile};
/// # fn frame(ui: &mut egui::Ui, tuning: &mut TuningFile, camera: &mut Camera) {
/// let response = tuning_panel(ui, tuning);
/// if response.changed && response.refused.is_none() {
///     let _checked_above = camera.set_settings(tuning.settings().clone(), 0.2);
/// }
/// # }
/// ```
pub fn tuning_panel(ui: &mut Ui, tuning: &mut TuningFile) -> PanelResponse {
    let mut answer = PanelResponse::default();
    let unsaved = tuning.settings() != tuning.saved();
    ui.horizontal(|ui| {
        let name = tuning.path().file_name().unwrap_or_default().to_string_lossy().into_owned();
        ui.label(RichText::new(name).strong());
        if ui.add_enabled(unsaved, Button::new("Save")).clicked() {
            answer.fault = tuning.save().err();
        }
        if ui.add_enabled(unsaved, Button::new("Revert")).clicked() {
            tuning.revert();
            answer.changed = true;
        }
        mark(ui, unsaved, "not saved");
    });
    let saved = tuning.saved().clone();
    let inner = settings_panel(ui, tuning.settings_mut(), &saved);
    PanelResponse { changed: answer.changed || inner.changed, fault: answer.fault, ..inner }
}

/// Shows all keys of settings that are in no file, as [`tuning_panel`] does. Keys that differ from `saved` are marked.
pub fn settings_panel(ui: &mut Ui, settings: &mut Settings, saved: &Settings) -> PanelResponse {
    let before = settings.clone();
    let search = search_box(ui);
    let defaults = defaults_of(settings);
    let mut refused = settings.validate().err();
    if let Some(error) = &refused {
        ui.colored_label(ui.visuals().error_fg_color, error.to_string());
    }
    let mut called = Vec::new();
    ScrollArea::vertical().auto_shrink([false, false]).show(ui, |ui| {
        for (index, group) in GROUPS.iter().enumerate() {
            let mut keys = Keys {
                settings: &mut *settings,
                saved,
                defaults: &defaults,
                search: &search,
                called: &mut called,
            };
            show_group(ui, group, index == 0, &mut keys);
        }
    });
    let changed = *settings != before;
    if changed {
        refused = settings.validate().err();
    }
    PanelResponse { changed, refused, fault: None, called }
}

fn search_box(ui: &mut Ui) -> String {
    let id = Id::unique("velvet-pan search");
    let mut search: String = ui.data(|data| data.get_temp(id)).unwrap_or_default();
    let edit =
        TextEdit::singleline(&mut search).hint_text("search keys").desired_width(f32::INFINITY);
    let response = ui.add(edit);
    response.widget_info(|| WidgetInfo::labeled(Role::TextInput, true, "search keys"));
    ui.data_mut(|data| data.insert_temp(id, search.clone()));
    search.trim().to_lowercase()
}

/// What is shown, and the search text.
struct Keys<'a> {
    settings: &'a mut Settings,
    saved: &'a Settings,
    defaults: &'a Settings,
    search: &'a str,
    called: &'a mut Vec<String>,
}

impl Keys<'_> {
    fn finds(&self, path: &str, setting: &Setting) -> bool {
        let Self { search, .. } = self;
        path.to_lowercase().contains(search) || setting.help().to_lowercase().contains(search)
    }
}

fn show_group(ui: &mut Ui, group: &Group, first: bool, keys: &mut Keys<'_>) {
    let shown = group.shown(keys.settings);
    let found = |one: &ListedTable| {
        let path = |setting: &Setting| format!("{}.{}", one.path, setting.key());
        one.table.keys().iter().any(|setting| keys.finds(&path(setting), setting))
    };
    let searching = !keys.search.is_empty();
    if shown.is_empty() || (searching && !shown.iter().any(found)) {
        return;
    }
    let open = searching.then_some(true);
    CollapsingHeader::new(group.title).default_open(first).open(open).show(ui, |ui| {
        for one in &shown {
            show_table(ui, one, keys);
        }
    });
}

fn show_table(ui: &mut Ui, shown: &ListedTable, keys: &mut Keys<'_>) {
    let optional = shown.table.form() == velvet_pan::TableForm::Optional;
    ui.horizontal(|ui| {
        if optional {
            let mut there = shown.there;
            let switch = ui.checkbox(&mut there, "");
            switch.widget_info(|| {
                WidgetInfo::selected(Role::CheckBox, true, there, shown.path.as_str())
            });
            if switch.changed() && there {
                keys.settings.add_table(&shown.path);
            } else if switch.changed() {
                keys.settings.leave_out(&shown.path);
            }
        }
        let title = RichText::new(format!("[{}]", shown.path)).color(MIST).monospace();
        ui.label(title).on_hover_text(shown.table.help());
        if let Some(cue) = shown.path.strip_prefix("cues.").filter(|_| !optional) {
            let call = ui.small_button("call").on_hover_text("calls this cue in the game");
            call.widget_info(|| WidgetInfo::labeled(Role::Button, true, format!("call {cue}")));
            if call.clicked() {
                keys.called.push(cue.to_owned());
            }
        }
    });
    if !shown.there {
        return;
    }
    for setting in shown.table.keys() {
        let path = format!("{}.{}", shown.path, setting.key());
        if keys.finds(&path, setting) {
            show_key(ui, &path, setting, keys);
        }
    }
    ui.add_space(6.0);
}

fn show_key(ui: &mut Ui, path: &str, setting: &Setting, keys: &mut Keys<'_>) {
    let value = keys.settings.get(path);
    let default = keys.defaults.get(path);
    let is_default = value == default;
    ui.horizontal(|ui| {
        let changed = value != keys.saved.get(path);
        mark(ui, changed, &format!("{path} is not saved"));
        let text = RichText::new(setting.key()).monospace();
        let text = if is_default { text } else { text.color(SPROUT) };
        ui.label(text).on_hover_text(help(setting, default.as_ref()));
        if setting.is_optional() {
            let mut there = value.is_some();
            let switch = ui.checkbox(&mut there, "");
            switch.widget_info(|| {
                WidgetInfo::selected(Role::CheckBox, true, there, format!("{path} is set"))
            });
            if switch.changed() {
                set_or_leave_out(keys.settings, path, setting, there);
            }
        }
        if let Some(default) = default.as_ref().filter(|_| !is_default) {
            let reset = ui
                .small_button("reset")
                .on_hover_text(format!("back to {}", setting.write(default)));
            reset.widget_info(|| WidgetInfo::labeled(Role::Button, true, format!("reset {path}")));
            if reset.clicked() {
                let _same_kind = keys.settings.set(path, default.clone());
            }
        }
    });
    if let Some(value) = keys.settings.get(path) {
        ui.indent(path, |ui| {
            if let Some(new) = field(ui, path, setting, &value) {
                // A slider can't set a value that is not allowed, and a typed one changes nothing.
                let _refused = keys.settings.set(path, new);
            }
        });
    }
}

/// Sets a key that was left out to the middle of its usual range, or removes it.
fn set_or_leave_out(settings: &mut Settings, path: &str, setting: &Setting, there: bool) {
    if !there {
        settings.leave_out(path);
        return;
    }
    let [low, high] = setting.usual();
    let middle = f64::midpoint(low, high);
    let kinds: [Value; 3] =
        [middle.into(), [middle; 2].into(), Rect::new([0, 0], [320, 180]).into()];
    for value in kinds {
        if settings.set(path, value).is_ok() {
            return;
        }
    }
}

/// Shows a dot if something differs from the file. `name` is for accessibility tools.
fn mark(ui: &mut Ui, shown: bool, name: &str) {
    let (rect, response) = ui.allocate_exact_size(egui::vec2(8.0, 8.0), Sense::hover());
    if shown {
        ui.painter().circle_filled(rect.center(), 3.5, HONEY);
        response.widget_info(|| WidgetInfo::labeled(Role::Label, true, name));
        response.on_hover_text("differs from the file");
    }
}

/// Returns the defaults of all keys that can be shown, with the same optional tables and cues.
fn defaults_of(settings: &Settings) -> Settings {
    let mut defaults = Settings::default();
    for path in Settings::tables().iter().flat_map(|table| settings.table_paths(table)) {
        // Items of lists have none.
        let _added = defaults.add_table(&path);
    }
    defaults
}

fn help(setting: &Setting, default: Option<&Value>) -> String {
    let mut text = format!("{}\n{}", setting.help(), setting.expected());
    if let Some(default) = default {
        text += &format!("\ndefault {}", setting.write(default));
    }
    if !setting.is_live() {
        text += "\nfrom its next use on";
    }
    text
}
