//! The figures of A and B beneath each other's.

use eframe::egui::{Align, Color32, Grid, Layout, RichText, Ui};
use velvet_pan_takes::Figure;

use crate::bench::Bench;

const SIZE: f32 = 12.0;
const BEST: Color32 = Color32::from_rgb(0xa3, 0xc7, 0x64);
const WORST: Color32 = Color32::from_rgb(0xdd, 0x7d, 0x6c);

/// Shows what `compare` says of the two cameras over the whole take.
pub fn show(ui: &mut Ui, bench: &Bench) {
    let half = Figure::ALL.len().div_ceil(2);
    ui.horizontal_top(|ui| {
        for (part, figures) in Figure::ALL.chunks(half).enumerate() {
            Grid::new(("figures", part))
                .spacing([8.0, 1.0])
                .min_row_height(18.0)
                .striped(true)
                .show(ui, |ui| {
                    head(ui, bench);
                    for figure in figures {
                        row(ui, bench, figure);
                    }
                });
        }
    });
}

fn head(ui: &mut Ui, bench: &Bench) {
    let state = match (bench.figures_are_new(), bench.is_played()) {
        (_, true) => "so far",
        (true, _) => "whole ride",
        _ => "measuring",
    };
    ui.label(RichText::new(state).size(SIZE).weak());
    for name in ["A", "B"] {
        number(ui, RichText::new(name).size(SIZE).strong());
    }
    ui.end_row();
}

fn row(ui: &mut Ui, bench: &Bench, figure: &Figure) {
    let values = bench.figures().map(|figures| figure.of(figures?));
    let known: Vec<f64> = values.iter().copied().flatten().collect();
    ui.label(RichText::new(figure.name).size(SIZE)).on_hover_text(figure.unit);
    for value in values {
        let text = value.map_or("–".to_owned(), Figure::short);
        let text = RichText::new(text).size(SIZE).monospace();
        number(
            ui,
            match value.and_then(|value| figure.rank(value, &known)) {
                Some(true) => text.color(BEST),
                Some(false) => text.color(WORST),
                None => text,
            },
        );
    }
    ui.end_row();
}

fn number(ui: &mut Ui, text: RichText) {
    ui.scope(|ui| {
        ui.set_min_width(42.0);
        ui.with_layout(Layout::right_to_left(Align::Center), |ui| ui.label(text));
    });
}
