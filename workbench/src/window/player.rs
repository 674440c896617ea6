//! The numbers of a take's player, where the user plays it.

use eframe::egui::{CollapsingHeader, DragValue, Role, Slider, Ui, WidgetInfo};
use velvet_pan_takes::PlayerKind;

use crate::model::Bench;

/// Shows speed, jump and size. They count from the next frame on, and are saved into the take with its tuning.
pub fn show(ui: &mut Ui, bench: &mut Bench) {
    let Some(player) = bench.player().cloned() else { return };
    let mut new = player.clone();
    let title = format!("player: {}", player.kind.name());
    CollapsingHeader::new(title).default_open(true).show(ui, |ui| {
        slider(ui, "speed", &mut new.speed, "units/s");
        if player.kind == PlayerKind::Runner {
            slider(ui, "jump", &mut new.jump, "units");
        }
        ui.horizontal(|ui| {
            ui.label("size");
            for (side, name) in new.size.iter_mut().zip(["width", "height"]) {
                let drag = DragValue::new(side).range(0.1..=1e4).speed(0.2).suffix(" units");
                let response = ui.add(drag);
                let name = format!("player {name}");
                response.widget_info(|| WidgetInfo::labeled(Role::SpinButton, true, &name));
            }
        });
    });
    if new != player {
        bench.set_player(new);
    }
}

fn slider(ui: &mut Ui, name: &str, number: &mut f64, unit: &str) {
    ui.horizontal(|ui| {
        ui.label(name);
        let slider = Slider::new(number, 1.0..=2000.0).logarithmic(true).suffix(format!(" {unit}"));
        let response = ui.add(slider);
        let name = format!("player {name}");
        response.widget_info(|| WidgetInfo::labeled(Role::Slider, true, &name));
    });
}
