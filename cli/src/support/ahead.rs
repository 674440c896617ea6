//! Work on another thread that runs ahead.

use std::sync::mpsc::{IntoIter, sync_channel};
use std::thread;

/// The maximum number of items that wait.
const AHEAD: usize = 4;

/// Creates items on another thread while `user` uses them in order. When `user` ends, no more are created.
pub fn ahead<T: Send, R>(
    items: impl Iterator<Item = T> + Send,
    user: impl FnOnce(IntoIter<T>) -> R,
) -> R {
    thread::scope(|scope| {
        let (sender, receiver) = sync_channel(AHEAD);
        scope.spawn(move || {
            for item in items {
                if sender.send(item).is_err() {
                    break;
                }
            }
        });
        user(receiver.into_iter())
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn items_come_in_order_and_end_with_their_user() {
        assert_eq!(ahead(0..1000, Iterator::collect::<Vec<_>>), (0..1000).collect::<Vec<_>>());
        assert_eq!(ahead(0.., |mut items| items.nth(2)), Some(2));
    }
}
