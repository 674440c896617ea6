//! The keys, and what each is for.

use eframe::egui::{Key, Modifiers, Ui};

/// What a key does.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Action {
    Pause,
    StepBack,
    StepOn,
    Slow,
    Loop,
    Again,
    Keep,
    Flip,
    Both,
    Marks,
    Shake,
    Hitch,
    Hints,
    WritePicture,
    Undo,
    Redo,
    Save,
}

/// A key, the hint for it, and what it does.
pub struct Binding {
    pub key: Key,
    pub hint: &'static str,
    pub action: Action,
}

const fn key(key: Key, hint: &'static str, action: Action) -> Binding {
    Binding { key, hint, action }
}

/// The keys that act where nothing is being typed.
pub const BINDINGS: [Binding; 14] = [
    key(Key::P, "pause, and go on", Action::Pause),
    key(Key::Comma, "a frame back", Action::StepBack),
    key(Key::Period, "a frame on", Action::StepOn),
    key(Key::H, "half speed", Action::Slow),
    key(Key::L, "loop", Action::Loop),
    key(Key::R, "again, from the start", Action::Again),
    key(Key::K, "keep this camera as A", Action::Keep),
    key(Key::F, "flip between A and B", Action::Flip),
    key(Key::B, "A beside B", Action::Both),
    key(Key::O, "deadzone, goal and bounds", Action::Marks),
    key(Key::X, "shake", Action::Shake),
    key(Key::T, "a hitch of 0.25 s", Action::Hitch),
    key(Key::I, "write the picture", Action::WritePicture),
    key(Key::F1, "these hints", Action::Hints),
];

/// Those that act with the command key.
const COMMANDS: [(Modifiers, Key, Action); 4] = [
    (Modifiers::COMMAND.plus(Modifiers::SHIFT), Key::Z, Action::Redo),
    (Modifiers::COMMAND, Key::Z, Action::Undo),
    (Modifiers::COMMAND, Key::Y, Action::Redo),
    (Modifiers::COMMAND, Key::S, Action::Save),
];

/// The hints for what is not a binding: keys and pointer.
pub const MOVES: [(&str, &str); 4] = [
    ("arrows, A D", "run"),
    ("space, W", "leap"),
    ("wheel", "zoom about the pointer"),
    ("drag", "move the view by hand"),
];

/// What was pressed in this frame.
pub fn pressed(ui: &Ui, types: bool) -> Vec<Action> {
    ui.input_mut(|input| {
        let mut actions: Vec<Action> = Vec::new();
        for (modifiers, key, action) in COMMANDS {
            if input.consume_key(modifiers, key) {
                actions.push(action);
            }
        }
        if !types {
            let pressed = BINDINGS.iter().filter(|one| input.consume_key(Modifiers::NONE, one.key));
            actions.extend(pressed.map(|one| one.action));
        }
        actions
    })
}

/// Where Wren is to run, and whether she is to leap: −1, 0 or 1, and the leap in the frame of its key.
pub fn moves(ui: &Ui) -> (f64, bool) {
    ui.input(|input| {
        let held = |keys: [Key; 2]| keys.iter().any(|key| input.key_down(*key));
        let way = f64::from(i8::from(held([Key::ArrowRight, Key::D])))
            - f64::from(i8::from(held([Key::ArrowLeft, Key::A])));
        let leaps = [Key::Space, Key::ArrowUp, Key::W];
        (way, leaps.iter().any(|key| input.key_pressed(*key)))
    })
}
