using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;
using Microsoft.AspNetCore.Http;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What is selected after a command was done.</summary>
public enum SelectedAfter
{
    /// <summary>The same as before, as far as it is there still.</summary>
    TheSame,

    /// <summary>What it brought into the job, so that it can be put in its place at once.</summary>
    WhatCameIn,
}

/// <summary>What a command comes to.</summary>
public abstract record CommandStep
{
    private CommandStep()
    {
    }

    /// <summary>A change of the job: the next line of its history.</summary>
    public sealed record Change(JobEdit Edit) : CommandStep;

    /// <summary>A walk to a line of the history.</summary>
    /// <param name="Position">Which.</param>
    /// <param name="Says">What is said of it; null: what that line did.</param>
    public sealed record Walk(long Position, string? Says = null) : CommandStep;
}

/// <summary>
/// Something that can be done to a job on the bench. It is declared once, by the task it belongs to: its address, its keys, its line in the table of keys, its trial and what is selected
/// afterwards all come from here.
/// </summary>
/// <param name="Name">Names it in addresses, such as <c>move-to</c>.</param>
/// <param name="Label">As a person reads it.</param>
public abstract record Command(string Name, string Label)
{
    /// <summary>The keys that do it.</summary>
    public IReadOnlyList<CommandKey> Keys { get; init; } = [];

    /// <summary>What is selected afterwards.</summary>
    public SelectedAfter Selects { get; init; }

    /// <summary>Where it is refused, what was typed stays as it is: the card is not shown anew.</summary>
    public bool KeepsTyped { get; init; }

    /// <summary>What is noted beside the job once it was done and stored; null: nothing.</summary>
    public Action<BenchView, JobEdit>? Afterwards { get; init; }

    /// <summary>The plan that it would give may be asked for before it is done.</summary>
    public bool Previews { get; init; }

    /// <summary>A command of a form: its fields are the parameters of a record, by their names.</summary>
    public static Command Of<TForm>(string name, string label, Func<BenchView, TForm, JobEdit> edit) => new Formed<TForm>(name, label, (bench, form) => new CommandStep.Change(edit(bench, form)));

    /// <summary>A command that needs no more than what is selected.</summary>
    public static Command Of(string name, string label, Func<BenchView, JobEdit> edit) => new Formed<NoForm>(name, label, (bench, _) => new CommandStep.Change(edit(bench)));

    /// <summary>A command that walks along the history.</summary>
    public static Command Walking<TForm>(string name, string label, Func<BenchView, TForm, CommandStep.Walk> walk) => new Formed<TForm>(name, label, walk);

    /// <summary>What a posted form asks for.</summary>
    /// <exception cref="EditRefusedException">It asks for something that cannot be; the message says why.</exception>
    public abstract CommandStep StepOf(BenchView bench, IFormCollection form);

    /// <summary>A form without fields.</summary>
    public sealed record NoForm;

    private sealed record Formed<TForm>(string Name, string Label, Func<BenchView, TForm, CommandStep> Make) : Command(Name, Label)
    {
        public override CommandStep StepOf(BenchView bench, IFormCollection form) => Make(bench, PostedForm.Read<TForm>(form));
    }
}

/// <summary>A key that does a command with these values of its form.</summary>
/// <param name="Press">The key, with <c>Shift+</c> or <c>Ctrl+</c> before it where they are held.</param>
/// <param name="Says">What it does, in the table of keys.</param>
/// <param name="Section">Where in that table.</param>
public sealed record CommandKey(string Press, string Says, KeySection Section)
{
    /// <summary>Values of the form; empty: none.</summary>
    public IReadOnlyDictionary<string, string> Values { get; init; } = new Dictionary<string, string>();

    /// <summary>Parts must be selected for it; else it says so and posts nothing.</summary>
    public bool NeedsParts { get; init; }
}

/// <summary>A key for something that only the screen does: to play, to look closer, to open a task, to lead to a field of its card.</summary>
/// <param name="Press">The key, with <c>Shift+</c>, <c>Ctrl+</c> before it where they are held.</param>
/// <param name="Says">What it does, in the table of keys; null where another line of the table says it.</param>
/// <param name="Section">Where in that table.</param>
/// <param name="Does">The script's name for it.</param>
public sealed record ScreenKey(string Press, string? Says, KeySection Section, string Does)
{
    /// <summary>With what: a task, a place in its card.</summary>
    public IReadOnlyList<string> With { get; init; } = [];

    /// <summary>As the table of keys writes it where that is not the key itself.</summary>
    public string? Shown { get; init; }
}

/// <summary>The parts of the table of keys, in its order.</summary>
public enum KeySection
{
    /// <summary>Playing and the order.</summary>
    SewingLine,

    /// <summary>What is done to parts.</summary>
    SelectedParts,

    /// <summary>Taking apart and leaving out.</summary>
    ApartTogetherLess,

    /// <summary>What the mouse does with a ring of the selection.</summary>
    SizesWithTheMouse,

    /// <summary>Looking closer.</summary>
    View,

    /// <summary>Getting about.</summary>
    TasksAndHistory,
}
