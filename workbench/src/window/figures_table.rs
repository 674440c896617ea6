//! The figures of A and B, one above the other.

use eframe::egui::{Align, Grid, Layout, RichText, Ui};
use velvet_pan_takes::Figure;

use super::look::{CORAL, SPROUT};
use crate::model::Bench;

const SIZE: f32 = 11.0;

/// Shows the figures of both cameras over the whole take, as `compare` prints them.
pub fn show(ui: &mut Ui, bench: &Bench) {
    let half = Figure::ALL.len().div_ceil(2);
    ui.horizontal_top(|ui| {
        for (part, figures) in Figure::ALL.chunks(half).enumerate() {
            Grid::new(("figures", part))
                .spacing([8.0, 0.0])
                .min_row_height(12.5)
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
    for (name, hint) in [("A", "as it was kept"), ("B", "as it is now")] {
        number(ui, RichText::new(name).size(SIZE).strong(), hint);
    }
    ui.end_row();
}

fn row(ui: &mut Ui, bench: &Bench, figure: &Figure) {
    let known: Vec<f64> =
        bench.figures().iter().flatten().filter_map(|one| figure.of(one)).collect();
    ui.label(RichText::new(figure.name).size(SIZE)).on_hover_text(figure.unit);
    for figures in bench.figures() {
        let value = figures.and_then(|figures| figure.of(figures));
        let text = figures.map_or("–".to_owned(), |figures| figure.shown(figures));
        let text = RichText::new(text).size(SIZE).monospace();
        let text = match value.and_then(|value| figure.rank(value, &known)) {
            Some(true) => text.color(SPROUT),
            Some(false) => text.color(CORAL),
            None => text,
        };
        let reason = if value.is_none() { figure.reason() } else { figure.unit };
        number(ui, text, reason);
    }
    ui.end_row();
}

fn number(ui: &mut Ui, text: RichText, hint: &str) {
    ui.scope(|ui| {
        ui.set_min_width(42.0);
        ui.with_layout(Layout::right_to_left(Align::Center), |ui| {
            ui.label(text).on_hover_text(hint);
        });
    });
}
