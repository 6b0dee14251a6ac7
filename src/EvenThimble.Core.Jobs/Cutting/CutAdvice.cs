using EvenThimble.Core.Craft;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Cutting;

/// <summary>What to mind when cloth is cut for a job: what is fused under it, how it lies, how the blade is set, what is done in which order.</summary>
/// <param name="Cloth">The cloth that is cut, as the job's is.</param>
/// <param name="Cutter">The cutter; null: scissors.</param>
/// <param name="FaceDown">It lies face down.</param>
/// <param name="AllowanceMm">How far the cut lies outside the stitches, mm.</param>
public sealed record CutAdvice(ClothProfile Cloth, CutterModel? Cutter, bool FaceDown, double AllowanceMm)
{
    private const double ThickMm = 1.2;

    /// <summary>Whether cloth of a profile is laid face down unless the user says otherwise: a blade would lift loops and fibres.</summary>
    public static bool UsuallyFaceDown(ClothProfile cloth) => cloth.HasHighPile;

    /// <summary>How deep the blade is set to begin with.</summary>
    public int Blade => Cutter is null ? 0 : Math.Clamp((int)Math.Round((1.5 + (Cloth.ThicknessMm * 2)) * Cutter.MostBlade / 10), 1, Cutter.MostBlade);

    /// <summary>How often it goes over each line.</summary>
    public int Passes => Cutter is null ? 0 : Math.Clamp(Cloth.ThicknessMm >= ThickMm ? 2 : 1, 1, Cutter.MostPasses);

    /// <summary>Which side is up, in a sentence.</summary>
    public string Side => FaceDown
        ? "The cloth lies face down on the mat, its fusible side up. The pieces are cut mirrored, and are right when they are turned over."
        : "The cloth lies face up on the mat, its fusible side down on the paper. The pieces are cut as they are seen on the bench.";

    /// <summary>The list, in the order of the work.</summary>
    public IReadOnlyList<(string What, string Says)> All =>
    [
        ("Fusible", Cloth.HasHighPile ? "Iron a light fusible web to the back before cutting, at low heat and through a press cloth, so that the pile is not flattened." : Cloth.Id == "vinyl" ? "None: vinyl does not bear the iron. A spray or double-sided film holds it." : "Iron a paper-backed fusible web to the back before cutting: the edge does not fray, and the piece holds on the placement line."),
        ("Side", Side),
        Cutter is null
            ? ("Scissors", "Print at 100 %, not fitted to the page, and measure the rule of 50 mm first. Cut along the outside of the line.")
            : ("Mat", $"{(Cloth.ThicknessMm >= ThickMm ? "Strong" : "Standard")} grip; smooth the cloth from the middle outwards, grain along the mat. The mat of {Cutter.Name} is {LengthText.Decimals(Cutter.MatWidth, 0)} × {LengthText.Decimals(Cutter.MatHeight, 0)} mm."),
        .. Cutter is null ? Array.Empty<(string, string)>() : [("Blade", $"Begin with {Blade} of {Cutter.MostBlade}, {(Passes == 1 ? "one pass" : $"{Passes} passes")}, and cut the test square first: it must fall out clean and measure 20 mm.")],
        ("Size", Cutter is null ? "Nothing is to be enlarged or fitted: the file carries the size." : $"The file carries its size; {Cutter.Name} must show the same millimetres as the list of pieces. Do not let it scale or fit the drawing."),
        ("Order", $"Inner lines are cut before outer ones. Sew the placement line, lay the piece within {LengthText.Decimals(AllowanceMm, 1)} mm around it, fuse or spray it, then sew the tack-down and the cover; nothing is trimmed."),
    ];
}
