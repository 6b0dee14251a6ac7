using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Commands of the job as a whole, and keys that belong to no task.</summary>
internal static class JobCommands
{
    private sealed record RenameForm(string? Title);

    private sealed record MendForm(string? Key);

    private sealed record LineForm(long Position);

    public static IReadOnlyList<Command> All { get; } =
    [
        Command.Of<RenameForm>("rename", "Name the job", (_, form) => new RenameJob(form.Title ?? string.Empty)),
        Command.Of<MendForm>("mend", "Do what a finding offers", (bench, form) =>
            bench.Findings.SelectMany(f => f.Remedies).FirstOrDefault(r => r.Key == form.Key)?.Edit ?? throw new EditRefusedException("That is put right already.")),
        Command.Walking<Command.NoForm>("undo", "Undo", (bench, _) => new(bench.Open.Stored.Before ?? long.MinValue, $"Undid: {bench.Open.Stored.Said}"))
            with { Keys = [new("Ctrl+z", "undo", KeySection.TasksAndHistory)] },
        Command.Walking<Command.NoForm>("redo", "Redo", (bench, _) => new(bench.Open.Stored.After ?? long.MaxValue))
            with { Keys = [new("Ctrl+Shift+z", "redo", KeySection.TasksAndHistory)] },
        Command.Walking<LineForm>("go-to", "Go to a line of the history", (_, form) => new(form.Position)),
    ];

    public static IReadOnlyList<ScreenKey> ScreenKeys { get; } =
    [
        new(" ", "play, pause", KeySection.SewingLine, "rehearse") { With = ["play"], Shown = "Space" },
        new(",", "one stitch back", KeySection.SewingLine, "rehearse") { With = ["back"] },
        new(".", "one stitch on", KeySection.SewingLine, "rehearse") { With = ["on"] },
        new("<", "previous jump", KeySection.SewingLine, "rehearse") { With = ["previous-jump"] },
        new(">", "next jump", KeySection.SewingLine, "rehearse") { With = ["next-jump"] },
        new("[", "previous thread change", KeySection.SewingLine, "rehearse") { With = ["previous-change"] },
        new("]", "next thread change", KeySection.SewingLine, "rehearse") { With = ["next-change"] },
        new("-", "smaller", KeySection.View, "zoom") { With = ["out"] },
        new("=", "larger", KeySection.View, "zoom") { With = ["in"] },
        new("+", null, KeySection.View, "zoom") { With = ["in"] },
        new("0", "whole hoop", KeySection.View, "zoom") { With = ["hoop"] },
        new("9", "selection", KeySection.View, "zoom") { With = ["selection"] },
        new("Escape", "select nothing", KeySection.SelectedParts, "select-none") { Shown = "Esc" },
        new("Ctrl+a", "select everything", KeySection.SelectedParts, "select-all"),
    ];
}
