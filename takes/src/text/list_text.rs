//! Lists in a text that lose and gain items: what stays keeps its comments.

use std::ops::Range;

use toml_edit::{Array, Value};

/// The largest product of two lengths that are compared item by item.
const MAX_PRODUCT: usize = 4_000_000;

/// Returns for each item of a new list the old one that it was: an equal one in the same order, or else, between equal
/// ones, the next one, which was then changed. `None` for a new one.
pub fn origins(
    old: usize,
    new: usize,
    is_same: impl Fn(usize, usize) -> bool,
) -> Vec<Option<usize>> {
    let mut origins = vec![None; new];
    let kept =
        if old.saturating_mul(new) <= MAX_PRODUCT { common(old, new, is_same) } else { Vec::new() };
    let (mut from, mut to) = (0, 0);
    let ends = kept.iter().copied().chain([(old, new)]);
    for (kept_old, kept_new) in ends {
        pair_up(&mut origins, from..kept_old, to..kept_new);
        if kept_new < new {
            origins[kept_new] = Some(kept_old);
        }
        (from, to) = (kept_old + 1, kept_new + 1);
    }
    origins
}

/// Items of a gap: changed ones, as far as there are old ones. If the new list is shorter there, some are gone.
fn pair_up(origins: &mut [Option<usize>], old: Range<usize>, new: Range<usize>) {
    for (to, from) in new.zip(old) {
        origins[to] = Some(from);
    }
}

/// Returns the longest list of equal items in the same order, as pairs of old and new positions.
fn common(old: usize, new: usize, is_same: impl Fn(usize, usize) -> bool) -> Vec<(usize, usize)> {
    // The length from each pair of positions on.
    let mut lengths = vec![vec![0_u32; new + 1]; old + 1];
    for i in (0..old).rev() {
        for j in (0..new).rev() {
            lengths[i][j] = match is_same(i, j) {
                true => lengths[i + 1][j + 1] + 1,
                false => lengths[i + 1][j].max(lengths[i][j + 1]),
            };
        }
    }
    let (mut i, mut j, mut pairs) = (0, 0, Vec::new());
    while i < old && j < new {
        if is_same(i, j) {
            pairs.push((i, j));
            (i, j) = (i + 1, j + 1);
        } else if lengths[i + 1][j] >= lengths[i][j + 1] {
            i += 1;
        } else {
            j += 1;
        }
    }
    pairs
}

/// What stands around an item: before it, and after its comma up to the end of the line.
#[derive(Clone, Debug, Default)]
struct Around {
    before: String,
    after: String,
}

/// Changes an array whose items are worth keeping. `change` gives an old item its new value.
pub fn change_array(
    array: &mut Array,
    to: &Array,
    is_same: impl Fn(&Value, &Value) -> bool,
    change: impl Fn(&mut Value, &Value),
) {
    let old: Vec<Value> = array.iter().cloned().collect();
    let around = surroundings(&old, array.trailing().as_str().unwrap_or_default());
    let end = array.trailing().as_str().unwrap_or_default();
    let end = end[end.find('\n').unwrap_or(0)..].to_owned();
    let new: Vec<&Value> = to.iter().collect();
    let origins = origins(old.len(), new.len(), |i, j| is_same(&old[i], new[j]));
    array.clear();
    let mut after = String::new();
    for (value, origin) in new.into_iter().zip(origins) {
        let mut item = origin.map_or_else(|| value.clone(), |origin| old[origin].clone());
        change(&mut item, value);
        let place = match origin {
            Some(origin) => around[origin].clone(),
            // Where a line begins with an item, a new one begins a line, too.
            None => Around { before: indented(around.last()), after: String::new() },
        };
        item.decor_mut().set_prefix(after + &place.before);
        item.decor_mut().set_suffix("");
        after = place.after;
        array.push_formatted(item);
    }
    array.set_trailing(after + &end);
}

/// What stands around each item of a list. `trailing` is what stands after the last one's comma.
fn surroundings(items: &[Value], trailing: &str) -> Vec<Around> {
    let prefix = |item: &Value| {
        item.decor().prefix().and_then(|prefix| prefix.as_str()).unwrap_or_default().to_owned()
    };
    let prefixes: Vec<String> = items.iter().map(prefix).collect();
    let line_end = |text: &str| text.find('\n');
    let own = |index: usize| match (index, line_end(&prefixes[index])) {
        // Before the first item there is no other one's comment.
        (1.., Some(end)) => prefixes[index][end..].to_owned(),
        _ => prefixes[index].clone(),
    };
    let after = |index: usize| {
        let next = prefixes.get(index + 1).map_or(trailing, String::as_str);
        line_end(next).map_or(String::new(), |end| next[..end].to_owned())
    };
    (0..items.len()).map(|index| Around { before: own(index), after: after(index) }).collect()
}

/// Returns the space before an item, without comments of its own.
fn indented(around: Option<&Around>) -> String {
    let before = around.map_or("", |around| around.before.as_str());
    match before.rfind('\n') {
        Some(line) => before[line..].to_owned(),
        None if around.is_some() => " ".to_owned(),
        None => String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::origins;

    #[test]
    fn items_are_found_again() {
        let of = |old: &str, new: &str| {
            let (old, new): (Vec<char>, Vec<char>) = (old.chars().collect(), new.chars().collect());
            origins(old.len(), new.len(), |i, j| old[i] == new[j])
        };
        assert_eq!(of("abc", "abc"), [Some(0), Some(1), Some(2)]);
        assert_eq!(of("abc", "ac"), [Some(0), Some(2)]);
        assert_eq!(of("abc", "abcd"), [Some(0), Some(1), Some(2), None]);
        assert_eq!(of("abc", "axc"), [Some(0), Some(1), Some(2)]);
        assert_eq!(of("abc", "xabc"), [None, Some(0), Some(1), Some(2)]);
        assert_eq!(of("abc", ""), []);
        assert_eq!(of("", "ab"), [None, None]);
    }
}
