//! Reads settings from a tuning file, or from a table within a take.

use std::path::Path;

use velvet_pan::Settings;

use crate::change::Change;
use crate::document::{Document, refusal};
use crate::fault::Fault;
use crate::files::Files;

/// Reads settings from a file of their own, with changes applied, and checks them.
pub fn read_settings(files: Files<'_>, path: &Path, changes: &[Change]) -> Result<Settings, Fault> {
    let document = Document::read(files, path)?;
    let settings: Settings = document.parse_changed(changes)?;
    check_settings(&settings, &document, "", changes)?;
    Ok(settings)
}

/// Checks settings that stand at `prefix` in a document. A fault names the change, or the place in the document, that
/// the value came from.
pub fn check_settings(
    settings: &Settings,
    document: &Document,
    prefix: &str,
    changes: &[Change],
) -> Result<(), Fault> {
    settings.validate().map_err(|error| {
        let key = format!("{prefix}{}", error.field());
        let what = refusal(&error);
        if let Some(change) = changes.iter().rev().find(|change| change.concerns(&key)) {
            // For a whole table, name the key within it.
            let part = key.strip_prefix(&change.key).unwrap_or("").trim_start_matches('.');
            let what = if part.is_empty() { what } else { format!("{part}: {what}") };
            return change.fault(&what);
        }
        document.fault(&key, what)
    })
}
