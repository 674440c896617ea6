//! The widgets of one key.

use egui::{ComboBox, DragValue, Response, Role, Slider, SliderClamping, TextEdit, Ui, WidgetInfo};
use velvet_pan::{Choice, ChoiceForm, Chosen, Rect, Setting, SettingKind, Value};

/// Shows a value that can be edited. `path` is the name of its widgets for accessibility tools. Returns the new value.
pub fn field(ui: &mut Ui, path: &str, setting: &Setting, value: &Value) -> Option<Value> {
    match (setting.kind(), value) {
        (SettingKind::Choice(choices), Value::Choice(chosen)) => {
            choice(ui, path, choices, chosen).map(Value::Choice)
        }
        (SettingKind::Choice(choices), Value::PerAxis([x, y])) => {
            let new_x = choice(ui, &format!("{path}.x"), choices, x);
            let new_y = choice(ui, &format!("{path}.y"), choices, y);
            let changed = new_x.is_some() || new_y.is_some();
            let axes = [new_x.unwrap_or_else(|| x.clone()), new_y.unwrap_or_else(|| y.clone())];
            changed.then_some(Value::PerAxis(axes))
        }
        (SettingKind::Names(known), Value::Names(chosen)) => some_of(ui, path, known, chosen),
        (_, Value::Number(number)) => {
            let scale =
                Scale { usual: setting.usual(), allowed: setting.allowed(), unit: setting.unit() };
            slider(ui, path, *number, &scale).map(Value::Number)
        }
        (kind, Value::Pair(numbers)) => {
            let names =
                if kind == SettingKind::Size { ["width", "height"] } else { names(setting) };
            let whole = kind == SettingKind::Size;
            drags(ui, path, setting, *numbers, names, whole).map(Value::Pair)
        }
        (_, Value::Rect(rect)) => {
            let (min, size) = (rect.min, rect.size());
            let numbers = [min.x, min.y, size.x, size.y];
            let [x, y, width, height] =
                drags(ui, path, setting, numbers, ["x", "y", "width", "height"], false)?;
            Some(Value::Rect(Rect { min: (x, y).into(), max: (x + width, y + height).into() }))
        }
        (_, Value::Flag(flag)) => {
            let (mut flag, word) = (*flag, if *flag { "yes" } else { "no" });
            let response = ui.checkbox(&mut flag, word);
            name(&response, Role::CheckBox, path);
            response.changed().then_some(Value::Flag(flag))
        }
        (_, Value::Count(count)) => {
            let mut count = *count;
            let response = ui.add(DragValue::new(&mut count));
            name(&response, Role::SpinButton, path);
            response.changed().then_some(Value::Count(count))
        }
        (_, Value::Text(text)) => {
            let mut text = text.clone();
            let response =
                ui.add(TextEdit::singleline(&mut text).desired_width(ui.available_width() - 12.0));
            name(&response, Role::TextInput, path);
            response.changed().then_some(Value::Text(text))
        }
        (_, value) => {
            ui.weak(format!("{value} (in the file)"));
            None
        }
    }
}

/// Returns a box to tick for each name.
fn some_of(ui: &mut Ui, path: &str, known: &[Choice], chosen: &[String]) -> Option<Value> {
    let mut now: Vec<String> = Vec::new();
    ui.horizontal_wrapped(|ui| {
        for choice in known.iter().map(Choice::as_str) {
            let mut ticked = chosen.iter().any(|one| one == choice);
            let response = ui.checkbox(&mut ticked, choice);
            name(&response, Role::CheckBox, &format!("{path} {choice}"));
            now.extend(ticked.then(|| choice.to_owned()));
        }
    });
    (now != chosen).then_some(Value::Names(now))
}

/// Names a widget for accessibility tools and for tests.
fn name(response: &Response, kind: Role, path: &str) {
    response.widget_info(|| WidgetInfo::labeled(kind, true, path));
}

/// Returns the names of the two numbers of a pair.
fn names(setting: &Setting) -> [&'static str; 2] {
    if setting.expected().starts_with("the smallest") {
        ["smallest", "largest"]
    } else {
        ["x", "y"]
    }
}

/// The allowed range of a number.
struct Scale<'a> {
    usual: [f64; 2],
    allowed: [f64; 2],
    unit: &'a str,
}

fn slider(ui: &mut Ui, path: &str, number: f64, scale: &Scale<'_>) -> Option<f64> {
    let mut now = number;
    let [low, high] = scale.usual;
    let suffix = if scale.unit.is_empty() { String::new() } else { format!(" {}", scale.unit) };
    // The number beside it, with its unit, has a fixed width.
    let beside = 72.0 + 7.0 * suffix.chars().count() as f32;
    ui.spacing_mut().slider_width = (ui.available_width() - beside).clamp(60.0, 400.0);
    let slider = Slider::new(&mut now, low..=high)
        .clamping(SliderClamping::Never)
        .max_decimals(4)
        .suffix(suffix);
    let response = ui.add(slider);
    response.widget_info(|| WidgetInfo::slider(true, now, path));
    response.changed().then(|| now.clamp(scale.allowed[0], scale.allowed[1]))
}

fn drags<const N: usize>(
    ui: &mut Ui,
    path: &str,
    setting: &Setting,
    numbers: [f64; N],
    names: [&str; N],
    whole: bool,
) -> Option<[f64; N]> {
    let mut now = numbers;
    let [low, high] = setting.usual();
    let [least, most] = if N == 2 { setting.allowed() } else { [f64::MIN, f64::MAX] };
    let speed = if whole { 1.0 } else { ((high - low) / 200.0).max(1e-3) };
    let mut changed = false;
    ui.horizontal_wrapped(|ui| {
        for (number, axis) in now.iter_mut().zip(names) {
            let drag = DragValue::new(number)
                .speed(speed)
                .range(least..=most)
                .max_decimals(if whole { 0 } else { 4 })
                .prefix(format!("{axis} "));
            let response = ui.add(drag);
            name(&response, Role::SpinButton, &format!("{path} {axis}"));
            changed |= response.changed();
        }
        ui.weak(setting.unit());
    });
    let whole_numbers = now.map(|number| if whole { number.round() } else { number });
    changed.then_some(whole_numbers)
}

fn choice(ui: &mut Ui, path: &str, choices: &[Choice], chosen: &Chosen) -> Option<Chosen> {
    let mut new = None;
    let combo = ComboBox::from_id_salt(path).selected_text(chosen.as_str()).show_ui(ui, |ui| {
        for choice in choices {
            let is_chosen = choice.as_str() == chosen.as_str();
            if ui.selectable_label(is_chosen, choice.as_str()).clicked() && !is_chosen {
                new = Some(begun(choice));
            }
        }
    });
    name(&combo.response, Role::ComboBox, path);
    let known = choices.iter().find(|choice| choice.as_str() == chosen.as_str());
    if let (Some(choice), [number]) = (known, chosen.numbers()) {
        let scale = Scale { usual: choice.usual(), allowed: choice.allowed(), unit: choice.unit() };
        let number = slider(ui, &format!("{path} {}", choice.as_str()), *number, &scale);
        new = new.or(number.map(|number| Chosen::number(choice.as_str(), number)));
    }
    new
}

/// Returns a choice with numbers to start from: a quarter of the usual range.
fn begun(choice: &Choice) -> Chosen {
    let [low, high] = choice.usual();
    match choice.form() {
        ChoiceForm::Number | ChoiceForm::BareNumber => {
            Chosen::number(choice.as_str(), low + (high - low) / 4.0)
        }
        ChoiceForm::Pair => Chosen::pair(choice.as_str(), [1.0, 0.0]),
        ChoiceForm::Name => Chosen::name(choice.as_str()),
    }
}
