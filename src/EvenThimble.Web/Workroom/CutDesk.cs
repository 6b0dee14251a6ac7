using System.Collections.Immutable;
using System.Security.Cryptography;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Sheets;

namespace EvenThimble.Web.Workroom;

/// <summary>What pieces can be laid on: the mat of a cutter, or paper for scissors.</summary>
/// <param name="Id">Short name in forms.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Width">Across, mm.</param>
/// <param name="Height">Down, mm.</param>
/// <param name="Cutter">The cutter; null: scissors.</param>
public sealed record CutMat(string Id, string Name, double Width, double Height, CutterModel? Cutter);

/// <summary>What came of handing a cut file over.</summary>
/// <param name="Cutter">For which cutter.</param>
/// <param name="FileName">Its name there.</param>
/// <param name="Done">Whether it arrived whole.</param>
/// <param name="Says">What happened, in a sentence.</param>
/// <param name="Listing">How the cutter sees it; null when it did not arrive.</param>
public sealed record CutArrival(CutterModel Cutter, string FileName, bool Done, string Says, MachineListing? Listing);

/// <summary>Cuts jobs: the lines of each version once, laid on mats, written and handed to cutters.</summary>
public sealed class CutDesk(JobDesk desk, EquipmentRoom room)
{
    private const int MostKept = 24;
    private const long MostRecordsKept = 600_000;

    // Each holds the whole plan that it was made of.
    private readonly RecentlyMade<(long Id, long Version), CutJob> _recent = new(MostRecordsKept, c => c.Records + 1000);
    private readonly RecentlyMade<(string Plan, string Parts, JobCutting Chosen), CutLines> _lines = new(MostKept, _ => 1);
    private readonly RecentlyMade<(string Plan, string Parts), SuggestedRoles> _suggested = new(MostKept, _ => 1);

    private sealed record SuggestedRoles(ImmutableArray<SuggestedRole> All);

    /// <summary>What pieces can be laid on.</summary>
    public static IReadOnlyList<CutMat> Mats { get; } =
    [
        .. StandInCutters.All.Select(c => new CutMat(c.Id, $"{c.Name}, mat {c.MatWidth:0} × {c.MatHeight:0} mm", c.MatWidth, c.MatHeight, c)),
        .. new[] { Paper.A4, Paper.Letter }.Select(p => new CutMat($"scissors-{p.Name.ToLowerInvariant()}", $"scissors, {p.Name} paper", Math.Floor(CutTemplate.RoomOn(p).Width), Math.Floor(CutTemplate.RoomOn(p).Height), null)),
    ];

    /// <summary>The cutting of a job.</summary>
    public CutJob Of(OpenJob open) => _recent.Get((open.Stored.Id, open.Stored.Version), () =>
    {
        var (job, plan) = (open.Job, open.Job.SewsOnlySeen ? desk.Whole(open.Job) : open.Plan);

        // An allowance or a mat changes no line: what was found in the same stitches holds.
        var chosen = new JobCutting { Parts = job.Cutting.Parts, Around = job.Cutting.Around, Changes = job.Cutting.Changes };
        return new(job, plan, () => _lines.Get((open.PlanTag, PartsOf(job), chosen), () => CutLines.Of(job, plan)));
    });

    /// <summary>The roles that parts of a job seem to have.</summary>
    public ImmutableArray<SuggestedRole> SuggestedFor(OpenJob open) => _suggested.Get((open.PlanTag, PartsOf(open.Job)), () => new(RoleReading.Suggest(open.Job, open.Plan))).All;

    /// <summary>The mat of a short name; the first where there is none.</summary>
    public static CutMat MatOf(string? id) => Mats.FirstOrDefault(m => m.Id == id) ?? Mats[0];

    /// <summary>The pieces laid on a mat. What was laid by hand holds on the mat that the job has chosen.</summary>
    public CutLayout LayoutOn(OpenJob open, CutMat mat)
    {
        var cut = Of(open);
        return MatOf(cut.Wish.Cutter) == mat ? cut.LaidOn(mat.Width, mat.Height)
            : CutLayout.Lay(cut.Pieces.All, cut.Copies, mat.Width, mat.Height, cut.Wish.GapMm, cut.FaceDown, cut.Wish.Turning, cut.Wish.TestSquare);
    }

    /// <summary>The bytes of a kind of file: of one sheet, or of all where it has pages.</summary>
    /// <exception cref="EditRefusedException">There is nothing to be cut, or no such sheet.</exception>
    public byte[] Write(OpenJob open, CutLayout layout, CutFileKind kind, int sheet, Paper paper)
    {
        if (layout.Sheets.IsEmpty) throw new EditRefusedException(string.Join(' ', Of(open).Findings.Concat(layout.Findings).Take(2).Select(f => $"{f.Says} {f.Advice}")) is { Length: > 0 } says ? says : "Nothing is chosen to be cut.");
        if (kind == CutFileKind.Pdf) return new CutTemplate(open.Job.Title, [.. layout.Sheets.Select(s => (s.Name, CutFile.Of(s, open.Job.Title)))]) { Advice = Of(open).AdviceFor(null).All }.ToPdf(paper);
        if (sheet < 1 || sheet > layout.Sheets.Length) throw new EditRefusedException($"There is no sheet {sheet}; there {(layout.Sheets.Length == 1 ? "is one" : $"are {layout.Sheets.Length}")}.");
        var file = CutFile.Of(layout.Sheets[sheet - 1], open.Job.Title);
        return kind == CutFileKind.Png ? CutPainter.Picture(file) : CutFormats.Write(kind, file);
    }

    /// <summary>What a sheet's file is called.</summary>
    public static string FileName(string stem, CutLayout layout, int sheet, CutFileKind kind) => $"{stem}{(layout.Sheets.Length > 1 && kind != CutFileKind.Pdf ? $" {sheet}of{layout.Sheets.Length}" : string.Empty)}{kind.Extension}";

    /// <summary>Writes the sheets of a job for a cutter, puts them where they should go, reads them there again and lets the cutter look at them.</summary>
    public IReadOnlyList<CutArrival> Deliver(OpenJob open, Cutter cutter, CutFileKind kind, string stem, string drawerId, bool replace)
    {
        CutArrival Not(string name, string why) => new(cutter.Model, name, false, why, null);
        if (room.Drawer(drawerId) is not { } drawer) return [Not(stem, "There is no such cutter or stick.")];
        if (!cutter.Model.Takes.Contains(kind)) return [Not(stem, $"{cutter.Model.Name} does not read {kind.Name}.")];
        var layout = LayoutOn(open, MatOf(cutter.Model.Id));
        var arrivals = new List<CutArrival>();
        for (var sheet = 1; sheet <= Math.Max(1, layout.Sheets.Length); sheet++)
        {
            var name = FileName(stem, layout, sheet, kind);
            try
            {
                var bytes = Write(open, layout, kind, sheet, Paper.A4);
                drawer.Put(name, bytes, replace);
                var arrived = drawer.Read(name);
                arrivals.Add(SHA256.HashData(arrived).AsSpan().SequenceEqual(SHA256.HashData(bytes))
                    ? new(cutter.Model, name, true, $"{arrived.Length:N0} bytes arrived, each of them as written.", cutter.Look(name, arrived.Length, () => arrived))
                    : Not(name, "What arrived is not what was written. Delete it there and do it again."));
            }
            catch (Exception e) when (Refusals.Of(e) is { } refusal)
            {
                arrivals.Add(Not(name, refusal.Sentence));
            }
        }

        return arrivals;
    }

    /// <summary>What of parts lines and roles depend on besides their stitches.</summary>
    private static string PartsOf(Job job) => string.Join('\n', job.Order.Select(p => $"{p.Id.Value} {p.Role} {p.Name} {p.Drawn?.Shape.Hash.Hex} {p.Placement.X} {p.Placement.Y} {p.Placement.TurnDegrees} {p.Placement.Mirrored} {p.Placement.Size.Across} {p.Placement.Size.Down} {p.Placement.Size.Lean}"));
}
