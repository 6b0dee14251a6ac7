using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>
/// A task of the bench. All that it is lies in one folder: this declaration with its commands, the card with its pieces, and its script, which is mounted when the page opens.
/// </summary>
public abstract class BenchTask
{
    /// <summary>Names it in addresses; its script is <c>{folder}/{id}.js</c>.</summary>
    public abstract string Id { get; }

    /// <summary>As a person reads it.</summary>
    public abstract string Name { get; }

    /// <summary>Its icon on the rail.</summary>
    public abstract string Icon { get; }

    /// <summary>The key that opens it; null: none.</summary>
    public virtual char? Key => null;

    /// <summary>What is done here, for a hint.</summary>
    public abstract string Says { get; }

    /// <summary>Stands on the rail; else it is opened from elsewhere.</summary>
    public virtual bool OnRail => true;

    /// <summary>The field of its card that its key leads to; null: none.</summary>
    public virtual string? Focus => null;

    /// <summary>What can be done here.</summary>
    public virtual IReadOnlyList<Command> Commands => [];

    /// <summary>Keys for what only the screen does.</summary>
    public virtual IReadOnlyList<ScreenKey> ScreenKeys => [];

    /// <summary>The name of its card's partial.</summary>
    public string Card => $"{Name}/_{Name}";

    /// <summary>Whether it has a script.</summary>
    public virtual bool HasScript => true;

    /// <summary>The address of its script.</summary>
    public string Script => $"/pages/Bench/{Name}/{Id}.js";

    /// <summary>What its card shows.</summary>
    public virtual object CardFor(BenchView bench) => bench;

    /// <summary>What else can be asked of it, by names in addresses: pieces of its card, lines to be drawn. Nothing changes by asking.</summary>
    public virtual IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts => new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>();

    /// <summary>What can be sent to it beside its commands, by names in addresses: a file, something that is kept outside the job.</summary>
    public virtual IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Sent => new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>();
}
