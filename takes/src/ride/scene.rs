//! The events of a take as a cutscene for a game, and its marks.

use velvet_pan::{Command, Itinerary, Passage};

use crate::ride::run::commands;
use crate::take::take::Take;

/// How long a mark is shown, in seconds.
const SHOWN: f64 = 3.0;

impl Take {
    /// Returns the events of the take as an itinerary, to run in a game what was written and watched here. Cameras have
    /// the names of the take, its own is `main`. A `pan`, which is a velocity, is left out.
    ///
    /// ```
    /// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Take};
    /// use velvet_pan::ItineraryRun;
    ///
    /// # let text = "seconds = 4.0\n[[events]]\nat = 1.0\nzoom = 2.0\n[[events]]\nat = 2.5\nmark = \"the bell rings\"\n";
    /// # let files = [BuiltIn { name: "scene.toml", text: text.into() }];
    /// let take = Take::read(Files::BuiltIn(&files), "scene.toml".as_ref(), &Overrides::default())?;
    /// let run = ItineraryRun::new(take.itinerary());
    /// assert_eq!(take.itinerary().seconds(), 2.5);
    /// # assert!(run.is_ok());
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    pub fn itinerary(&self) -> Itinerary {
        let mut scene = Itinerary::default();
        for event in &self.events {
            let gate = event.gate.clone().map(Passage::WaitForGate);
            let waits = gate.into_iter().chain(event.arrive.then_some(Passage::WaitForArrival));
            let camera = event.camera.as_ref().map(|key| Passage::Camera {
                key: key.clone(),
                seconds: event.glide.unwrap_or(0.0),
                ease: event.ease.unwrap_or_default(),
            });
            let resize = event.window.map(|size| Command::Resize(size.into()));
            // Another subject is no movement of the old one.
            let switch = event.watch.as_ref().filter(|names| names.len() == 1);
            let told = resize
                .into_iter()
                .chain(switch.map(|_| Command::SwitchSubject))
                .chain(commands(event))
                .map(Passage::Tell);
            let watch = event.watch.clone().map(Passage::Watch);
            let mark = event.mark.clone().map(Passage::Mark);
            for passage in waits.chain(camera).chain(watch).chain(told).chain(mark) {
                scene = scene.with(event.at, passage);
            }
        }
        scene
    }

    /// Returns the mark to show at a time of the events ([`Moment::events_t`](crate::Moment::events_t)), in seconds: the
    /// last one, for 3 seconds.
    pub fn mark_at(&self, t: f64) -> Option<&str> {
        let marks = self.events.iter().filter_map(|event| Some((event.at, event.mark.as_ref()?)));
        let (at, mark) = marks.take_while(|(at, _)| *at <= t).last()?;
        (t - at < SHOWN).then_some(mark)
    }
}
