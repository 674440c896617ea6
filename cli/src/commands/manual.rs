//! `completions` and `man`: the command's documentation for shells and readers.

use clap::{Args, Command};
use clap_complete::Shell;
use velvet_pan_takes::Fault;

use crate::support::output::write_text;

/// Write completions for a shell.
#[derive(Args, Debug)]
#[command(after_help = "\
Examples:
  velvet-pan completions bash > ~/.local/share/bash-completion/completions/velvet-pan
  velvet-pan completions fish > ~/.config/fish/completions/velvet-pan.fish")]
pub struct CompletionsArgs {
    /// The shell
    #[arg(value_enum)]
    shell: Shell,
}

/// Write the manual page, in roff.
#[derive(Args, Debug)]
#[command(after_help = "\
Examples:
  velvet-pan man | man -l -")]
pub struct ManArgs {}

/// Runs `completions`.
pub fn write_completions(args: &CompletionsArgs, mut command: Command) -> Result<(), Fault> {
    let mut text = Vec::new();
    clap_complete::generate(args.shell, &mut command, "velvet-pan", &mut text);
    // For bash, the dash in the command's name becomes two different words: nothing after a subcommand would be
    // completed.
    let text = String::from_utf8_lossy(&text).replace("velvet__subcmd__pan", "velvet__pan");
    write_text(None, &text)
}

/// Runs `man`: writes the page of the command, and a page for each of its commands.
pub fn write_man(mut command: Command) -> Result<(), Fault> {
    let failed = |error: std::io::Error| Fault::new(format!("not written: {error}"));
    let mut text = Vec::new();
    command.build();
    clap_mangen::Man::new(command.clone()).render(&mut text).map_err(failed)?;
    for inner in command.get_subcommands().filter(|inner| inner.get_name() != "help") {
        let name = format!("velvet-pan-{}", inner.get_name());
        clap_mangen::Man::new(inner.clone()).title(name).render(&mut text).map_err(failed)?;
    }
    write_text(None, &String::from_utf8_lossy(&text))
}
