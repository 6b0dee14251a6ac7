using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>The fabric, and what it asks for.</summary>
public sealed class ClothTask : BenchTask
{
    private sealed record ClothForm(string? Kind, string? Colour);

    public override string Id => "cloth";

    public override string Name => "Cloth";

    public override string Icon => "bi-grid-3x3";

    public override string Says => "What the cloth asks for";

    public override bool OnRail => false;

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<ClothForm>("cloth", "Lay it on a cloth", (bench, form) =>
        {
            var chosen = bench.Cloths.Concat([bench.Job.Cloth.Profile]).FirstOrDefault(c => c.Id == form.Kind) ?? throw new EditRefusedException("That cloth is not known here.");
            return new ChooseCloth(new(chosen, Rgb.TryParse(form.Colour, out var colour) ? colour : chosen.UsualColour));
        }) with { Previews = true },
    ];
}
