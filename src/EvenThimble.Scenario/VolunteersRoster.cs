using EvenThimble.Core.Names;

namespace EvenThimble.Scenario;

/// <summary>The volunteers of the open night, with what each of them does.</summary>
public static class VolunteersRoster
{
    private static readonly (string Given, string Family, string Duty)[] People =
    [
        ("Ottoline", "Marsh", "Dome"), ("Bram", "Tull", "Gate"), ("Ilse", "Quarrie", "Telescopes"), ("Wen", "Achterberg", "Telescopes"), ("Rufus", "Ode", "Tea"), ("Marguerite-Anne", "Fothergill", "Gate"),
        ("Jo", "Pym", "Tea"), ("Tamsin", "Vale", "Dome"), ("Dov", "Ister", "Telescopes"), ("Cato", "Brindle", "Gate"), ("Ngaire", "Holm", "Dome"), ("Piet", "Sallow", "Tea"),
    ];

    /// <summary>All of them.</summary>
    public static Roster Roster { get; } = People.Aggregate(Core.Names.Roster.New("Volunteers", "given", "family", "duty"), (roster, p) => roster.Adding([p.Given, p.Family, p.Duty], 1, "shirt"));
}
