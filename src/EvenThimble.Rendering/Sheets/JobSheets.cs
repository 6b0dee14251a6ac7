using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Rendering.Sheets;

/// <summary>A job as it is put on paper.</summary>
/// <param name="Job">What is wanted.</param>
/// <param name="Plan">Its plan.</param>
/// <param name="Hooped">Its hoopings.</param>
/// <param name="Machine">The machine that it is sewn on.</param>
public sealed record JobSheets(Job Job, SewingPlan Plan, HoopedJob Hooped, SewingMachineModel Machine)
{
    private const int PicturePixels = 900;

    /// <summary>The templates that there are, by the words of an address: of the whole, of each hooping, and of the stabilizer under a hoop of several positions.</summary>
    public IReadOnlyList<(string Key, string Name)> Templates =>
    [
        ("whole", Hooped.IsDivided ? "The whole cloth" : "The hoop"),
        .. Hooped.IsDivided ? Hooped.Hoopings.Select(h => ($"{h.Number}", $"{char.ToUpperInvariant(h.InWords[0])}{h.InWords[1..]}")) : [],
        ("stabilizer", "The stabilizer"),
    ];

    /// <summary>A template; null where there is none of that key.</summary>
    /// <param name="key">One of <see cref="Templates"/>.</param>
    /// <param name="mirrored">To mark from the back.</param>
    /// <param name="marksOnly">Without the picture.</param>
    public TemplateSheet? Template(string key, bool mirrored, bool marksOnly)
    {
        var field = Hooped.Hoopings[0].Place.Field;
        if (key == "stabilizer")
        {
            // What lies in the hoop all the time: every position of it, about the middle of the whole.
            var middle = Hooped.Hoopings[0].Hooping.Position is { } p ? Hooped.Hoopings[0].Place.Centre - field.AllPositions[p - 1].Offset : Hooped.Hoopings[0].Place.Centre;
            return Made($"for the stabilizer: {Machine.Name}, {field.Name}", [], [.. field.AllPositions.Select(position => FieldAt(field, $"{position.Number}", middle + position.Offset))], mirrored, marksOnly: true);
        }

        if (key == "whole") return Made($"{Machine.Name}, {field.Name}", [Plan], [.. Hooped.Hoopings.Select(h => FieldAt(h.Place.Field, LabelOf(h), h.Place.Centre))], mirrored, marksOnly);
        return Hooped.Hoopings.FirstOrDefault(h => $"{h.Number}" == key) is { } hooping
            ? Made($"{hooping.InWords}: {Machine.Name}, {field.Name}", [hooping.Plan], [FieldAt(hooping.Place.Field, LabelOf(hooping), hooping.Place.Centre)], mirrored, marksOnly)
            : null;
    }

    /// <summary>The sewing sheet.</summary>
    /// <param name="needles">By part the needles that sew it, as they are written; empty on a machine with one.</param>
    /// <param name="fileNames">The names of the files, by hooping.</param>
    /// <param name="date">The day that is written on it.</param>
    public SewingSheet Sewing(Func<PartId, string> needles, IReadOnlyList<string> fileNames, DateOnly date)
    {
        var cloth = Job.Cloth.Profile;
        var estimate = SewingEstimate.Of(Plan, Machine, cloth.ThicknessMm).InHoopings([.. Hooped.Hoopings.Select(h => h.Plan)], Machine, cloth.ThicknessMm);
        var field = Hooped.Hoopings[0].Place.Field;
        var b = Plan.Bounds;
        var texts = Texts().ToList();
        List<(string, string)> facts =
        [
            ("Size", $"{Mm(b.Width)} × {Mm(b.Height)} mm"),
            ("Stitches", $"{Number(Plan.StitchCount)}, {Count(Plan.Threads.Length, "thread")}, {Count(Plan.ThreadChanges, "thread change")}"),
            ("Time", $"about {Math.Ceiling(estimate.Minutes).ToString("0", CultureInfo.InvariantCulture)} minutes{(Job.Copies > 1 ? $" each, {Number(Job.Copies)} times" : string.Empty)}"),
            ("Machine", Machine.Name),
            ("Hoop", Hooped.IsDivided ? $"{field.Name}, {Hooped.Hoopings.Length} hoopings" : field.Name),
        ];
        if (fileNames.Count == 1) facts.Add(("File", fileNames[0]));
        if (texts.Count > 0) facts.Add(("Text", string.Join(" · ", texts)));
        facts.Add(("Cloth", cloth.Name));
        if (cloth.Stabilizer.Length > 0) facts.Add(("Stabilizer", cloth.Stabilizer));
        if (cloth.Topping.Length > 0) facts.Add(("Topping", cloth.Topping));
        if (cloth.Needle.Length > 0) facts.Add(("Needle", cloth.Needle));
        facts.Add(("Speed", $"{Number(Machine.StitchesPerMinute * cloth.SpeedPercent / 100)} stitches a minute"));
        if (!Hooped.IsDivided) facts.Add(("Edges", Edges(Hooped.Hoopings[0])));
        return new(Job.Title, date.ToString("d MMMM yyyy", CultureInfo.InvariantCulture), Picture, facts, [.. Hooped.Hoopings.Select((h, n) => Hooping(h, fileNames.Count > 1 ? fileNames[n] : string.Empty, needles))], Job.Notes);
    }

    /// <summary>The job on its cloth, with the field of each hooping (PNG).</summary>
    public byte[] Picture() => HoopPainter.Picture(Plan.ToFile(Job.Title), [.. Hooped.Hoopings.Select(h => h.Place.Field.Edge().Select(p => p + h.Place.Centre).ToList())], Job.Cloth.Colour, PicturePixels, PicturePixels);

    /// <summary>The texts of all letterings and monograms, each line after the other.</summary>
    private IEnumerable<string> Texts() => Job.Pieces.Select(p => TextOf(p.Content)).Where(t => t.Length > 0);

    private static string TextOf(PieceContent content) => content switch
    {
        ITextContent text => text.Wish.Text.ReplaceLineEndings(" / "),
        NameSlotContent slot => slot.Text.ReplaceLineEndings(" / "),
        MonogramContent monogram => string.Concat(monogram.Wish.Letters),
        _ => string.Empty,
    };

    private SheetHooping Hooping(HoopedPlan hooping, string file, Func<PartId, string> needles)
    {
        var plan = hooping.Plan;
        var steps = SewingSteps.Of(plan, Machine, Job.Cloth.Profile.ThicknessMm).Select(step => step switch
        {
            SewingStep.Sew s => new SheetStep(s.Thread.Colour, s.Thread.Number, s.Thread.Name, s.Thread.Maker, needles(plan.Parts[s.FirstPart].Id), string.Join(", ", s.Names), s.Stitches, s.Metres, s.Minutes),
            SewingStep.Stop s => new SheetStep(null, string.Empty, s.Message, string.Empty, string.Empty, string.Empty, 0, 0, 0),
            _ => throw new NotSupportedException("A step is sewn or a stop."),
        });
        return Hooped.IsDivided
            ? new($"{char.ToUpperInvariant(hooping.InWords[0])}{hooping.InWords[1..]}{(file.Length > 0 ? $": {file}" : string.Empty)}", $"{Mm(plan.Bounds.Width)} × {Mm(plan.Bounds.Height)} mm, {Number(plan.StitchCount)} stitches. {Edges(hooping)}", [.. steps])
            : new("In sewing order", string.Empty, [.. steps]);
    }

    /// <summary>How far what is sewn lies from the edges of the field.</summary>
    private static string Edges(HoopedPlan hooping)
    {
        var (b, c, f) = (hooping.Plan.Bounds, hooping.Place.Centre, hooping.Place.Field);
        return b.IsEmpty ? "Nothing is sewn." : $"From the edges of the field: left {Mm(b.MinX - c.X + (f.Width / 2))}, right {Mm(c.X + (f.Width / 2) - b.MaxX)}, top {Mm(b.MinY - c.Y + (f.Height / 2))}, bottom {Mm(c.Y + (f.Height / 2) - b.MaxY)} mm";
    }

    private TemplateSheet Made(string what, ImmutableArray<SewingPlan> plans, IReadOnlyList<TemplateField> fields, bool mirrored, bool marksOnly)
    {
        var shown = plans.IsEmpty ? SewingPlan.Empty : plans[0];
        return new(Job.Title, what, shown.ToFile(Job.Title))
        {
            Fields = fields,
            Seams = [.. Hooped.Seams().Select(s => s.Line)],
            Crosses = Hooped.Crosses,
            CrossMm = RegistrationCrosses.SizeMm,
            Mirrored = mirrored,
            MarksOnly = marksOnly,
            Outline = OutlineOf(plans.IsEmpty ? Plan : plans[0]),
        };
    }

    private static IReadOnlyList<Point> OutlineOf(SewingPlan plan) => Hull.Outline(Enumerable.Range(0, plan.Records.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stitch).Select(plan.Records.At));

    private static TemplateField FieldAt(HoopField field, string label, Point centre) => new(label, [.. field.Edge().Select(p => p + centre)], centre);

    private static string LabelOf(HoopedPlan hooping) => $"{(hooping.Of > 1 && hooping.Hooping.Position is null ? hooping.Number : hooping.Position)}";

    private static string Count(int n, string what) => $"{Number(n)} {what}{(n == 1 ? string.Empty : "s")}";

    private static string Number(int n) => n.ToString("N0", CultureInfo.InvariantCulture);

    private static string Mm(double v) => LengthText.Decimals(v, 1);
}
