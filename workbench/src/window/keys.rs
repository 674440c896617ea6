//! The keys and their effects.

use eframe::egui::{Key, Modifiers, Ui};

use crate::model::Wish;

/// The effect of a key.
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
    Overview,
    Edit,
    Shake,
    Hitch,
    Hints,
    WritePicture,
    Undo,
    Redo,
    Save,
}

/// A key, its hint, and its effect.
pub struct Binding {
    pub key: Key,
    pub hint: &'static str,
    pub action: Action,
}

const fn key(key: Key, hint: &'static str, action: Action) -> Binding {
    Binding { key, hint, action }
}

/// The keys that work while no text is being typed.
pub const BINDINGS: [Binding; 16] = [
    key(Key::P, "pause or play", Action::Pause),
    key(Key::Comma, "one frame back", Action::StepBack),
    key(Key::Period, "one frame forwards", Action::StepOn),
    key(Key::H, "half speed", Action::Slow),
    key(Key::L, "loop", Action::Loop),
    key(Key::R, "restart", Action::Again),
    key(Key::K, "keep this camera as A", Action::Keep),
    key(Key::F, "switch between A and B", Action::Flip),
    key(Key::B, "A and B side by side", Action::Both),
    key(Key::O, "deadzone, goal and bounds", Action::Marks),
    key(Key::V, "overview of the level", Action::Overview),
    key(Key::E, "edit places", Action::Edit),
    key(Key::X, "shake", Action::Shake),
    key(Key::T, "a hitch of 0.25 s", Action::Hitch),
    key(Key::I, "save the picture", Action::WritePicture),
    key(Key::F1, "these hints", Action::Hints),
];

/// The keys that work with the command key.
const COMMANDS: [(Modifiers, Key, Action); 4] = [
    (Modifiers::COMMAND.plus(Modifiers::SHIFT), Key::Z, Action::Redo),
    (Modifiers::COMMAND, Key::Z, Action::Undo),
    (Modifiers::COMMAND, Key::Y, Action::Redo),
    (Modifiers::COMMAND, Key::S, Action::Save),
];

/// The hints for keys and pointer actions that are not bindings.
pub const MOVES: [(&str, &str); 4] = [
    ("arrows, W A S D", "run, walk or fly"),
    ("space, up, W", "jump, if it runs"),
    ("wheel", "zoom about the pointer"),
    ("drag", "move the view by hand"),
];

/// Returns the keys that were pressed in this frame.
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

/// What the user wants of the player. A jump counts in the frame in which the key was pressed.
pub fn moves(ui: &Ui) -> Wish {
    ui.input(|input| {
        let held = |keys: [Key; 2]| i8::from(keys.iter().any(|key| input.key_down(*key)));
        let between = |back: [Key; 2], on: [Key; 2]| f64::from(held(on) - held(back));
        let leaps = [Key::Space, Key::ArrowUp, Key::W];
        Wish {
            way: between([Key::ArrowLeft, Key::A], [Key::ArrowRight, Key::D]),
            rise: between([Key::ArrowDown, Key::S], [Key::ArrowUp, Key::W]),
            leap: leaps.iter().any(|key| input.key_pressed(*key)),
        }
    })
}
