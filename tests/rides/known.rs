//! What is measured, beside the bound that is wanted, and what is known not to hold yet.
#![allow(dead_code)] // each user takes its part

/// The measures that are beyond their bounds, with today's figures. A line goes when its bound holds; one is
/// added only when a test looks farther.
const KNOWN: &str = include_str!("known.csv");

/// How much worse than the listed figures fresh seeds may be.
const FRESH: f64 = 1.5;

/// Returns the number of rides: the usual one, or for a long search, `RIDES` for each 2,000 in which there are `of_2000`.
pub fn rides(usual: u64, of_2000: u64) -> u64 {
    number("RIDES").map_or(usual, |rides| rides * of_2000 / 2000)
}

/// Returns the first seed: 0, or `SEED` for fresh ones.
pub fn first_seed() -> u64 {
    number("SEED").unwrap_or(0)
}

/// Returns whether this is a long search.
pub fn is_long() -> bool {
    number("RIDES").is_some()
}

fn number(name: &str) -> Option<u64> {
    std::env::var(name).ok().map(|text| text.parse().expect("a whole number"))
}

/// The measures of one test. Each has a bound; those in the list of known failures must still be beyond it.
pub struct Measures {
    test: String,
    known: Vec<Known>,
    faults: Vec<String>,
}

/// A line of the list.
struct Known {
    what: &'static str,
    today: f64,
    wanted: f64,
    is_seen: bool,
}

impl Measures {
    /// Begins the measures of a search, of which a long one has lines of its own in the list.
    pub fn of_search(test: &str) -> Self {
        let rides = number("RIDES").map(|rides| format!(" of {rides}")).unwrap_or_default();
        Self::of(&format!("{test}{rides}"))
    }

    /// Begins the measures of a test, which has this name in the list.
    pub fn of(test: &str) -> Self {
        let lines = KNOWN.lines().skip(1).filter_map(|line| line.strip_prefix(&format!("{test},")));
        let known = lines.map(|line| {
            let [what, today, wanted] = line.split(',').collect::<Vec<_>>()[..] else {
                panic!("expected a test, a measure, today's figure and the bound: {line}");
            };
            let number = |text: &str| text.parse().unwrap_or_else(|_| panic!("a number: {line}"));
            Known { what, today: number(today), wanted: number(wanted), is_seen: false }
        });
        Self { test: test.to_owned(), known: known.collect(), faults: Vec::new() }
    }

    /// Takes a measure and the bound that is wanted.
    pub fn at_most(&mut self, wanted: f64, what: &str, measured: f64) {
        let what = what.replace(',', "");
        println!("{},{what},{measured:.4},{wanted}", self.test);
        let fresh = if first_seed() > 0 { FRESH } else { 1.0 };
        let fault = match self.known.iter_mut().find(|known| known.what == what) {
            None if measured <= wanted * fresh => return,
            None => "is too large",
            Some(known) => {
                known.is_seen = true;
                match () {
                    // The list is that of the present frame. The new one may hold more, and the last digits differ.
                    () if known.wanted != wanted => "has another bound in the list",
                    () if measured <= wanted && fresh == 1.0 => "holds now: take it off the list",
                    () if measured <= known.today * fresh => return,
                    () => "is larger than it was",
                }
            }
        };
        self.faults.push(format!("{what}: {measured:.4} (at most {wanted}) {fault}"));
    }

    /// Fails if a measure is not what is expected, or stands in the list and was not taken.
    pub fn check(mut self) {
        let unseen = self.known.iter().filter(|known| !known.is_seen);
        self.faults.extend(unseen.map(|known| format!("{} was not measured", known.what)));
        assert!(self.faults.is_empty(), "{}:\n{}", self.test, self.faults.join("\n"));
    }
}
