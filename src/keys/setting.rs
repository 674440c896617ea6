//! A key of a tuning file: its effect, its unit and its range.

use alloc::string::String;

use crate::base::maths::is_usable;
use crate::base::rect::Rect;
use crate::keys::value::Value;

/// One key of a tuning file: ask [`Settings::tables`](crate::Settings::tables) for all.
///
/// ```
/// use velvet_pan::{Settings, SettingKind};
///
/// let half_life = Settings::setting("zoom.half_life").unwrap();
/// assert_eq!(half_life.kind(), SettingKind::Number);
/// assert_eq!(half_life.unit(), "s");
/// assert_eq!(half_life.expected(), "a half-life in seconds, from 0 to 1000000");
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Setting {
    key: &'static str,
    help: &'static str,
    noun: &'static str,
    unit: &'static str,
    kind: SettingKind,
    allowed: Range,
    usual: [f64; 2],
    live: bool,
    optional: bool,
    required: bool,
    per_axis: bool,
}

/// What the value of a setting looks like.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum SettingKind {
    /// A number.
    Number,
    /// A whole number, 0 or more.
    Count,
    /// Two numbers: `[x, y]`, or the smallest and the largest.
    Pair,
    /// Two whole numbers.
    Size,
    /// A rectangle of the world: `[x, y, width, height]`.
    Rect,
    /// `true` or `false`.
    Flag,
    /// One of several names, some of which have numbers of their own.
    Choice(&'static [Choice]),
    /// Some of several names: `["left", "top"]`.
    Names(&'static [Choice]),
    /// Any text.
    Text,
    /// Points of the world: `[[x, y], …]`.
    Points,
    /// Rectangles of the world: `[[x, y, width, height], …]`.
    Rects,
}

/// One name of a [`SettingKind::Choice`].
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Choice {
    name: &'static str,
    form: ChoiceForm,
    noun: &'static str,
    unit: &'static str,
    allowed: Range,
    usual: [f64; 2],
}

/// How a choice is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ChoiceForm {
    /// The name alone: `"none"`.
    Name,
    /// The name with a number: `{ half_life = 0.12 }`.
    Number,
    /// The name with two numbers: `{ kick = [1.0, 0.0] }`.
    Pair,
    /// The number alone, without the name.
    BareNumber,
}

/// The range of allowed numbers.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Range {
    least: f64,
    most: f64,
    /// Whether `least` itself is excluded.
    above: bool,
}

impl Range {
    /// Any finite number.
    const FINITE: Self = Self { least: f64::MIN, most: f64::MAX, above: false };
    /// Limits beyond this do not matter to anybody.
    const NO_LIMIT: f64 = 1e9;

    fn allows(&self, number: f64) -> bool {
        (self.least..=self.most).contains(&number) && !(self.above && number == self.least)
    }

    /// Returns the range in words, after `before`; empty if any finite number is allowed.
    fn words(&self, before: &str) -> String {
        let Self { least, most, above } = *self;
        let words = match (above, most >= Self::NO_LIMIT) {
            (_, true) if least <= -Self::NO_LIMIT => return String::new(),
            (false, true) => alloc::format!("{least} or more"),
            (true, true) => alloc::format!("above {least}"),
            (false, false) => alloc::format!("from {least} to {most}"),
            (true, false) => alloc::format!("above {least} and up to {most}"),
        };
        [before, &words].concat()
    }
}

impl Choice {
    /// Returns a name alone.
    pub(crate) const fn name(name: &'static str) -> Self {
        let allowed = Range::FINITE;
        Self { name, form: ChoiceForm::Name, noun: "", unit: "", allowed, usual: [0.0, 1.0] }
    }

    /// A name with a number: its description, its unit, and a range from 0 to `most`.
    pub(crate) const fn number(
        name: &'static str,
        noun: &'static str,
        unit: &'static str,
        most: f64,
        usual: [f64; 2],
    ) -> Self {
        let allowed = Range { least: 0.0, most, above: false };
        Self { name, form: ChoiceForm::Number, noun, unit, allowed, usual }
    }

    /// Returns the same choice in another notation.
    pub(crate) const fn in_form(mut self, form: ChoiceForm) -> Self {
        self.form = form;
        self
    }

    /// Returns the same choice with any finite numbers.
    pub(crate) const fn finite(mut self) -> Self {
        self.allowed = Range::FINITE;
        self
    }

    /// Returns its name.
    #[must_use]
    pub const fn as_str(&self) -> &'static str {
        self.name
    }

    /// Returns how it is written.
    #[must_use]
    pub const fn form(&self) -> ChoiceForm {
        self.form
    }

    /// Returns the unit of its numbers, or an empty text.
    #[must_use]
    pub const fn unit(&self) -> &'static str {
        self.unit
    }

    /// Returns the smallest and the largest number that is allowed.
    #[must_use]
    pub const fn allowed(&self) -> [f64; 2] {
        [self.allowed.least, self.allowed.most]
    }

    /// Returns the numbers between which people usually choose.
    #[must_use]
    pub const fn usual(&self) -> [f64; 2] {
        self.usual
    }

    fn count(&self) -> usize {
        match self.form {
            ChoiceForm::Name => 0,
            ChoiceForm::Number | ChoiceForm::BareNumber => 1,
            ChoiceForm::Pair => 2,
        }
    }

    /// Returns how it is written, and what its numbers are, in words.
    ///
    /// ```
    /// use velvet_pan::{Settings, SettingKind};
    ///
    /// let smoothing = Settings::setting("follow.smoothing").unwrap();
    /// let SettingKind::Choice(choices) = smoothing.kind() else { unreachable!() };
    /// assert_eq!(choices[0].expected(), "\"none\"");
    /// assert_eq!(choices[1].expected(), "{ half_life = … }, a half-life in seconds, from 0 to 1000000");
    /// ```
    #[must_use]
    pub fn expected(&self) -> String {
        match self.form {
            ChoiceForm::Name | ChoiceForm::BareNumber => self.written(),
            _ => [&self.written(), ", ", &self.expected_numbers()].concat(),
        }
    }

    /// How it is written.
    fn written(&self) -> String {
        let name = self.name;
        match self.form {
            ChoiceForm::Name => alloc::format!("\"{name}\""),
            ChoiceForm::Number => alloc::format!("{{ {name} = … }}"),
            ChoiceForm::Pair => alloc::format!("{{ {name} = [x, y] }}"),
            ChoiceForm::BareNumber => self.expected_numbers(),
        }
    }

    fn expected_numbers(&self) -> String {
        [self.noun, &self.allowed.words(", ")].concat()
    }
}

impl Setting {
    const fn new(
        key: &'static str,
        kind: SettingKind,
        help: &'static str,
        noun: &'static str,
    ) -> Self {
        Self {
            key,
            help,
            noun,
            unit: "",
            kind,
            allowed: Range::FINITE,
            usual: [0.0, 1.0],
            live: true,
            optional: false,
            required: false,
            per_axis: false,
        }
    }

    pub(crate) const fn number(key: &'static str, help: &'static str, noun: &'static str) -> Self {
        Self::new(key, SettingKind::Number, help, noun)
    }

    pub(crate) const fn pair(key: &'static str, help: &'static str, noun: &'static str) -> Self {
        Self::new(key, SettingKind::Pair, help, noun)
    }

    pub(crate) const fn size(key: &'static str, help: &'static str, noun: &'static str) -> Self {
        Self::new(key, SettingKind::Size, help, noun)
    }

    pub(crate) const fn flag(key: &'static str, help: &'static str) -> Self {
        Self::new(key, SettingKind::Flag, help, "true or false")
    }

    pub(crate) const fn choice(
        key: &'static str,
        help: &'static str,
        choices: &'static [Choice],
    ) -> Self {
        Self::new(key, SettingKind::Choice(choices), help, "")
    }

    pub(crate) const fn names(
        key: &'static str,
        help: &'static str,
        names: &'static [Choice],
        noun: &'static str,
    ) -> Self {
        Self::new(key, SettingKind::Names(names), help, noun)
    }

    pub(crate) const fn rect(key: &'static str, help: &'static str) -> Self {
        let noun = "x, y, width and height in world units, at most 1e100, width and height above 0, at least 1e-9";
        Self::new(key, SettingKind::Rect, help, noun).measured("world units")
    }

    /// World rectangles.
    pub(crate) const fn rects(key: &'static str, help: &'static str) -> Self {
        let noun = "rectangles as x, y, width and height in world units, at most 1e100, width and height above 0, at least 1e-9";
        Self::new(key, SettingKind::Rects, help, noun).measured("world units")
    }

    /// Returns a list or a text.
    pub(crate) const fn other(
        key: &'static str,
        kind: SettingKind,
        help: &'static str,
        noun: &'static str,
    ) -> Self {
        Self::new(key, kind, help, noun)
    }

    // The same setting with more information.

    pub(crate) const fn measured(mut self, unit: &'static str) -> Self {
        self.unit = unit;
        self
    }

    pub(crate) const fn from(mut self, least: f64, most: f64) -> Self {
        self.allowed = Range { least, most, above: false };
        self.usual = [least, most];
        self
    }

    pub(crate) const fn above(mut self, least: f64, most: f64) -> Self {
        self = self.from(least, most);
        self.allowed.above = true;
        self
    }

    pub(crate) const fn usual_from(mut self, least: f64, most: f64) -> Self {
        self.usual = [least, most];
        self
    }

    /// Takes effect from the next use, not for what runs already.
    pub(crate) const fn later(mut self) -> Self {
        self.live = false;
        self
    }

    pub(crate) const fn optional(mut self) -> Self {
        self.optional = true;
        self
    }

    /// Is required in its table.
    pub(crate) const fn required(mut self) -> Self {
        self.required = true;
        self
    }

    /// May differ between the axes.
    pub(crate) const fn per_axis(mut self) -> Self {
        self.per_axis = true;
        self
    }

    // Its information.

    /// Returns the key within its table, for example `half_life`.
    #[must_use]
    pub const fn key(&self) -> &'static str {
        self.key
    }

    /// Returns what it does, in one sentence without a full stop.
    #[must_use]
    pub const fn help(&self) -> &'static str {
        self.help
    }

    /// Returns the unit, or an empty text if the setting has no unit.
    #[must_use]
    pub const fn unit(&self) -> &'static str {
        self.unit
    }

    /// Returns what its value looks like.
    #[must_use]
    pub const fn kind(&self) -> SettingKind {
        self.kind
    }

    /// Returns the smallest and the largest number that is allowed.
    #[must_use]
    pub const fn allowed(&self) -> [f64; 2] {
        [self.allowed.least, self.allowed.most]
    }

    /// Returns whether the smallest number itself is not allowed.
    #[must_use]
    pub const fn is_above_least(&self) -> bool {
        self.allowed.above
    }

    /// Returns the numbers between which people usually choose: the ends of a slider.
    #[must_use]
    pub const fn usual(&self) -> [f64; 2] {
        self.usual
    }

    /// Returns whether a change affects shakes and cues that are already running. Otherwise it counts from the next call
    /// on.
    #[must_use]
    pub const fn is_live(&self) -> bool {
        self.live
    }

    /// Returns whether it may be left out without a default.
    #[must_use]
    pub const fn is_optional(&self) -> bool {
        self.optional
    }

    /// Returns whether it must stand in its table: it has no default.
    #[must_use]
    pub const fn is_required(&self) -> bool {
        self.required
    }

    /// Returns whether it may differ between the axes: `{ x = …, y = … }`.
    #[must_use]
    pub const fn is_per_axis(&self) -> bool {
        self.per_axis
    }

    /// Returns what would be right, in words: the end of an error message.
    #[must_use]
    pub fn expected(&self) -> String {
        match self.kind {
            SettingKind::Choice(choices) => {
                let mut words = String::from("one of ");
                for (index, choice) in choices.iter().enumerate() {
                    let comma = if index > 0 { ", " } else { "" };
                    let written = match choice.form {
                        ChoiceForm::BareNumber => choice.noun.into(),
                        _ => choice.written(),
                    };
                    words.extend([comma, &written]);
                }
                words
            }
            SettingKind::Pair | SettingKind::Size => {
                [self.noun, &self.allowed.words(", each ")].concat()
            }
            SettingKind::Number => [self.noun, &self.allowed.words(", ")].concat(),
            _ => self.noun.into(),
        }
    }

    /// Returns a value of this key as a tuning file writes it.
    ///
    /// ```
    /// use velvet_pan::Settings;
    ///
    /// let settings = Settings::default();
    /// let written = |path: &str| Settings::setting(path).unwrap().write(&settings.get(path).unwrap());
    /// assert_eq!(written("screen.size"), "[320, 180]");
    /// assert_eq!(written("zoom.level"), "1.0");
    /// assert_eq!(written("hands.return"), "0.4");
    /// ```
    #[must_use]
    pub fn write(&self, value: &Value) -> String {
        match (self.kind, value) {
            (_, Value::Number(number)) => alloc::format!("{number:?}"),
            (SettingKind::Size, Value::Pair([x, y])) => alloc::format!("[{x}, {y}]"),
            (SettingKind::Choice(choices), Value::Choice(chosen)) => {
                let bare = choices.iter().any(|choice| {
                    choice.name == chosen.as_str() && choice.form == ChoiceForm::BareNumber
                });
                match chosen.numbers() {
                    [number] if bare => alloc::format!("{number:?}"),
                    _ => alloc::format!("{value}"),
                }
            }
            _ => alloc::format!("{value}"),
        }
    }

    /// Returns what would be right in words, if this value is not allowed.
    ///
    /// ```
    /// use velvet_pan::{Settings, Value};
    ///
    /// let anchor = Settings::setting("follow.anchor").unwrap();
    /// assert_eq!(anchor.refuses(&Value::Pair([0.2, 1.0])), None);
    /// assert_eq!(
    ///     anchor.refuses(&Value::Pair([0.2, 1.5])).unwrap(),
    ///     "two fractions of the screen, each from 0 to 1"
    /// );
    /// ```
    #[must_use]
    pub fn refuses(&self, value: &Value) -> Option<String> {
        if let (true, Value::PerAxis(axes)) = (self.per_axis, value) {
            return axes.iter().find_map(|chosen| self.refuses(&chosen.clone().into()));
        }
        let within = |range: &Range| value.numbers().iter().all(|number| range.allows(*number));
        let right = match (self.kind, value) {
            (SettingKind::Number, Value::Number(_)) => within(&self.allowed),
            (SettingKind::Pair | SettingKind::Size, Value::Pair(_)) => within(&self.allowed),
            (SettingKind::Rect, Value::Rect(rect)) => rect.is_place(),
            (SettingKind::Rects, Value::Rects(rects)) => rects.iter().all(Rect::is_place),
            (SettingKind::Points, Value::Points(points)) => {
                points.iter().all(|at| is_usable((*at).into()))
            }
            (SettingKind::Choice(choices), Value::Choice(chosen)) => {
                match choices.iter().find(|choice| choice.name == chosen.as_str()) {
                    Some(one) if chosen.numbers().len() != one.count() => {
                        return Some(one.expected());
                    }
                    Some(one) if !within(&one.allowed) => return Some(one.expected_numbers()),
                    other => other.is_some(),
                }
            }
            (SettingKind::Names(known), Value::Names(names)) => {
                names.iter().all(|name| known.iter().any(|known| known.name == name))
            }
            (SettingKind::Count, Value::Count(_))
            | (SettingKind::Flag, Value::Flag(_))
            | (SettingKind::Text, Value::Text(_)) => true,
            _ => false,
        };
        (!right).then(|| self.expected())
    }
}
