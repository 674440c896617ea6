//! Properties that hold for random arguments.

use std::any::Any;
use std::fmt;
use std::vec::IntoIter;

use proptest::prelude::*;
use proptest::test_runner::{RngSeed, TestRunner};

/// Tests of properties, as `proptest!` has them, for a number of random cases that are always the same ones.
///
/// All of them go through one runner. One for each test, which `proptest!` makes, would be a fifth of the program.
macro_rules! properties {
    (
        #![cases($cases:expr)]
        $($(#[$meta:meta])* fn $name:ident($($argument:pat in $strategy:expr),+ $(,)?) $body:block)+
    ) => {$(
        $(#[$meta])*
        fn $name() {
            use $crate::support::properties as random;
            let strategies = vec![$(random::argument(stringify!($argument), $strategy)),+];
            random::check($cases, stringify!($name), &strategies, &|mut arguments: random::Arguments| {
                $(let $argument = arguments.take(|| $strategy);)+
                $body
                Ok(())
            });
        }
    )+};
}
pub(crate) use properties;

/// A random argument of a test, with its name.
pub struct Argument {
    name: &'static str,
    value: Box<dyn Value>,
}

/// Any type of value that a strategy gives.
trait Value: Any + fmt::Debug {}

impl<T: Any + fmt::Debug> Value for T {}

impl fmt::Debug for Argument {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} = {:?}", self.name, self.value)
    }
}

/// The arguments of one case, in order.
pub struct Arguments(IntoIter<Argument>);

impl Arguments {
    /// Returns the next one, which the same strategy gave.
    pub fn take<S: Strategy<Value: 'static>>(&mut self, _same: impl Fn() -> S) -> S::Value {
        self.next()
    }

    fn next<T: 'static>(&mut self) -> T {
        let value: Box<dyn Any> = self.0.next().expect("as many as there are strategies").value;
        *value.downcast().expect("what this strategy gives")
    }
}

pub fn argument<S>(name: &'static str, strategy: S) -> BoxedStrategy<Argument>
where
    S: Strategy<Value: 'static> + 'static,
{
    strategy.prop_map(move |value| Argument { name, value: Box::new(value) }).boxed()
}

/// Runs the cases of a test, and reports the simplest one that fails.
pub fn check(
    cases: u32,
    name: &'static str,
    strategies: &Vec<BoxedStrategy<Argument>>,
    test: &dyn Fn(Arguments) -> Result<(), TestCaseError>,
) {
    let config = ProptestConfig {
        cases,
        test_name: Some(name),
        failure_persistence: None,
        rng_seed: RngSeed::Fixed(20),
        ..ProptestConfig::default()
    };
    let mut runner = TestRunner::new(config);
    let outcome = runner.run(strategies, |case| test(Arguments(case.into_iter())));
    if let Err(failure) = outcome {
        panic!("{failure}\n{runner}");
    }
}
