//! A take that is saved and opened again is the same take.

use crate::tools::{demo, demos};
use velvet_pan_takes::{Figures, Path, PathRow, Run, Take};

#[test]
fn every_demo_take_reads_back_the_same() {
    let folder = tempfile::tempdir().expect("a folder");
    for name in demos() {
        let take = demo(&name);
        let place = folder.path().join(&name);
        take.save(&place).expect("written");
        let back = Take::open(place.join("take.toml")).expect("readable");
        assert_eq!((back.seconds, back.fps, back.window), (take.seconds, take.fps, take.window));
        assert!(back.settings == take.settings, "{name}");
        assert_eq!((&back.map, &back.watch, &back.events), (&take.map, &take.watch, &take.events));
        let paths = |take: &Take| -> Vec<(String, Path)> {
            take.subjects.iter().map(|(name, one)| (name.clone(), one.path.clone())).collect()
        };
        assert_eq!(paths(&back), paths(&take), "{name}");
        let figures = |take: &Take| Figures {
            ride: String::new(),
            ..Figures::of_take(take).expect("a ride")
        };
        assert_eq!(figures(&back), figures(&take), "{name}");
    }
}

#[test]
fn what_a_path_tells_of_jumps_and_carriers_is_written() {
    let folder = tempfile::tempdir().expect("a folder");
    let mut take = demo("pan");
    let text =
        "t,x,y,grounded,jump,carrier_x,carrier_y,cut\n0,1,2,1,0,30.5,0,0\n1,3,5,0,1,0,-2.5,1\n";
    let subject = take.subjects.values_mut().next().expect("a subject");
    subject.path = Path::parse("path.csv".as_ref(), text).expect("a path");
    let written = subject.path.clone();
    take.save(folder.path().join("pan")).expect("written");
    let back = Take::open(folder.path().join("pan/take.toml")).expect("readable");
    assert_eq!(back.subjects.values().next().map(|one| &one.path), Some(&written));
}

#[test]
fn nothing_is_written_over() {
    let folder = tempfile::tempdir().expect("a folder");
    let place = folder.path().join("pan");
    demo("pan").save(&place).expect("written");
    let fault = demo("kite").save(&place).expect_err("it exists already");
    assert!(fault.to_string().contains("exists already"), "{fault}");
    let fault = demo("pan").save(folder.path().join("no/such/place")).expect_err("no folder");
    assert!(fault.to_string().contains("no such file"), "{fault}");
    assert_eq!(std::fs::read_dir(folder.path()).expect("a folder").count(), 1);
}

/// A take that grows while it runs gives the same ride as the whole take.
#[test]
fn a_take_may_grow_while_it_is_run() {
    let whole = demo("terraces");
    let mut grown = whole.clone();
    let rows: Vec<PathRow> = whole.subjects["courier"].path.rows().to_vec();
    let start = Path::starting(rows[0]).expect("finite");
    grown.subjects.get_mut("courier").expect("the courier").path = start;
    let (mut run, mut other) = (Run::new(&whole).expect("a run"), Run::new(&grown).expect("a run"));
    for (number, row) in rows.iter().enumerate() {
        if number > 0 {
            let path = &mut grown.subjects.get_mut("courier").expect("the courier").path;
            path.push(*row).expect("later");
        }
        let (a, b) = (run.step(&whole), other.step(&grown));
        assert_eq!((a.t, a.view, a.goal), (b.t, b.view, b.goal), "row {number}");
    }
}

#[test]
fn a_long_frame_ends_where_short_ones_end() {
    let take = demo("pan");
    let (mut short, mut long) = (Run::new(&take).expect("a run"), Run::new(&take).expect("a run"));
    short.skip_to(&take, 31);
    long.step(&take);
    let moment = long.long_step(&take, 30);
    assert_eq!((moment.t, long.next_row()), (0.5, 31));
    assert!(short.view().centre().distance(moment.view.centre()) < 1e-9);
    let row = PathRow { t: 1.0, position: [f64::NAN, 0.0].into(), ..PathRow::default() };
    assert!(Path::starting(row).is_err());
}
