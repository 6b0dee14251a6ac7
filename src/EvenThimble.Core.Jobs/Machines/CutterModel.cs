namespace EvenThimble.Core.Machines;

/// <summary>A kind of file that lines are cut from.</summary>
/// <param name="Name">As the user reads it.</param>
/// <param name="Extension">With its dot.</param>
/// <param name="MediaType">As browsers are told it.</param>
public sealed record CutFileKind(string Name, string Extension, string MediaType)
{
    /// <summary>A vector drawing.</summary>
    public static readonly CutFileKind Svg = new("SVG drawing", ".svg", "image/svg+xml");

    /// <summary>A technical drawing.</summary>
    public static readonly CutFileKind Dxf = new("DXF drawing", ".dxf", "image/vnd.dxf");

    /// <summary>Commands of pen plotters.</summary>
    public static readonly CutFileKind Plotter = new("plotter commands", ".plt", "application/vnd.hp-hpgl");

    /// <summary>A picture of solid shapes.</summary>
    public static readonly CutFileKind Png = new("PNG picture", ".png", "image/png");

    /// <summary>A page at true size, for scissors.</summary>
    public static readonly CutFileKind Pdf = new("PDF at true size", ".pdf", "application/pdf");

    /// <summary>All kinds.</summary>
    public static IReadOnlyList<CutFileKind> All { get; } = [Svg, Dxf, Plotter, Png, Pdf];

    /// <summary>The kind of an ending or short name, such as <c>.svg</c> or <c>plt</c>; null where there is none.</summary>
    public static CutFileKind? Find(string? ending) => All.FirstOrDefault(k => k.Extension.TrimStart('.').Equals(ending?.TrimStart('.'), StringComparison.OrdinalIgnoreCase));
}

/// <summary>What a make of cutter takes and can do.</summary>
/// <param name="Id">Short name in files and addresses.</param>
/// <param name="Name">As it stands on the cutter.</param>
/// <param name="Takes">The kinds of file it reads, the best first.</param>
/// <param name="MatWidth">Across its mat, mm.</param>
/// <param name="MatHeight">Down its mat, mm.</param>
/// <param name="MostBlade">How far the blade can be set, from 1.</param>
/// <param name="MostPasses">How many times it can go over a line.</param>
public sealed record CutterModel(string Id, string Name, IReadOnlyList<CutFileKind> Takes, double MatWidth, double MatHeight, int MostBlade, int MostPasses)
{
    /// <summary>How fast it cuts, mm a second.</summary>
    public double CutsPerSecond { get; init; } = 40;

    /// <summary>How fast the lifted blade moves, mm a second.</summary>
    public double MovesPerSecond { get; init; } = 120;
}

/// <summary>The made-up cutters that ship with the program.</summary>
public static class StandInCutters
{
    /// <summary>Reads vector drawings.</summary>
    public static readonly CutterModel Plover12 = new("plover-12", "Plover 12", [CutFileKind.Svg, CutFileKind.Dxf], 300, 300, 10, 3);

    /// <summary>Reads plotter commands and pictures only.</summary>
    public static readonly CutterModel DunlinMini = new("dunlin-mini", "Dunlin Mini", [CutFileKind.Plotter, CutFileKind.Png], 210, 297, 5, 1) { CutsPerSecond = 25 };

    /// <summary>All of them.</summary>
    public static IReadOnlyList<CutterModel> All { get; } = [Plover12, DunlinMini];

    /// <summary>The cutter of a short name, or null.</summary>
    public static CutterModel? Find(string? id) => All.FirstOrDefault(c => c.Id == id);
}
