using System.Globalization;
using System.Text;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering.Sheets;

namespace EvenThimble.Web.Workroom;

/// <summary>The fetch list of a job: its threads in sewing order, with where they stand and which needle sews them.</summary>
/// <param name="Job">The job.</param>
/// <param name="Machine">The machine that it is sewn on.</param>
/// <param name="RackName">The rack that it is sewn from.</param>
/// <param name="Needs">What all copies take, set against the rack.</param>
/// <param name="Needles">Which needle sews what; null on a machine with one.</param>
public sealed record FetchList(OpenJob Job, SewingMachineModel Machine, string RackName, ThreadNeeds Needs, NeedlePlan? Needles)
{
    /// <summary>The needles that sew a thread, such as "3" or "3, 5"; empty on a machine with one.</summary>
    public string NeedlesOf(SewingThread thread) => Needles is not { } plan ? string.Empty
        : string.Join(", ", Job.Plan.Parts.Select((p, n) => (p.Thread, Needle: plan.NeedleOfPart[n])).Where(p => p.Thread.IsSameAs(thread)).Select(p => p.Needle).Distinct().Order());

    /// <summary>How many cones are to be fetched, as far as there are any.</summary>
    public static int ConesOf(ThreadNeed need) => need.Cone is not { } cone ? 0 : Math.Clamp((int)Math.Ceiling(need.TopMetres / (cone.LeftMetres / cone.Count)), 1, cone.Count);

    /// <summary>What is told of a thread that there is too little of; empty where there is enough.</summary>
    public static string TroubleOf(ThreadNeed need) => need switch
    {
        { IsEnough: true } => string.Empty,
        { Cone: null } => $"not on the rack, {Metres(need.MissingMetres)} missing",
        { Out: { } o } => string.Create(CultureInfo.InvariantCulture, $"runs out in copy {o.Copy:N0} at stitch {o.Stitch:N0}, {Metres(need.MissingMetres)} missing"),
        _ => $"{Metres(need.MissingMetres)} missing",
    };

    /// <summary>The cones to change on the needles, in sentences.</summary>
    public IReadOnlyList<string> ChangesInWords => Needles is not { } plan ? [] : plan.Changes.IsEmpty ? ["All of its threads are on their needles already."]
        : [.. plan.Changes.Select(c => $"{(c.Before == 0 ? "Before sewing" : $"Before “{Job.Plan.Parts[c.Before].Name}”")}, needle {c.Needle}: {(c.Off is { } off ? $"{off.Label} off, " : string.Empty)}{c.On.Label} on.")];

    /// <summary>As a page.</summary>
    public ListSheet ToSheet() => new(
        $"Fetch list: {Job.Job.Title}",
        [
            $"{Copies}, {Machine.Name}, from {RackName}",
            $"Bobbin thread: {Metres(Needs.BobbinMetres)}",
        ],
        [new("Number", 1.2), new("Name", 3), new("Maker", 2.2), .. Needles is null ? Array.Empty<SheetColumn>() : [new("Needle", 1)], new("Stands", 1.6), new("Cones", 0.9, true), new("Takes", 1.2, true), new("Left after", 1.3, true)],
        [.. Needs.Threads.Select(n => new SheetRow(n.Thread.Colour, Cells(n), TroubleOf(n)))],
        ChangesInWords);

    /// <summary>As a table.</summary>
    public byte[] ToCsv() => RackTables.Write(
        ["maker", "number", "name", "colour", "needle", "stands", "cones", "takes_m", "bobbin_m", "left_after_m", "missing_m", "runs_out"],
        Needs.Threads.Select(n => new[]
        {
            n.Thread.Maker, n.Thread.Number, n.Thread.Name, n.Thread.Colour.Hex, NeedlesOf(n.Thread), n.Cone?.Stands ?? string.Empty, Text(ConesOf(n)), Text(n.TopMetres), Text(n.BobbinMetres), Text(n.LeftAfter), Text(n.MissingMetres),
            n.Out is { } o ? string.Create(CultureInfo.InvariantCulture, $"copy {o.Copy} stitch {o.Stitch}") : string.Empty,
        }));

    /// <summary>How often it is sewn, in words.</summary>
    public string Copies => Look.Ui.Of(Needs.Copies, "copy", "copies");

    /// <summary>Metres as lists show them.</summary>
    public static string Metres(double metres) => $"{LengthText.Decimals(metres, 1)} m";

    private List<string> Cells(ThreadNeed n) =>
    [
        n.Thread.Number, n.Thread.Name, n.Thread.Maker, .. Needles is null ? Array.Empty<string>() : [NeedlesOf(n.Thread)], n.Cone?.Stands ?? string.Empty, ConesOf(n) is > 0 and var cones ? Text(cones) : string.Empty, Metres(n.TopMetres),
        n.Cone is null ? string.Empty : Metres(n.LeftAfter),
    ];

    private static string Text(double number) => LengthText.Decimals(number, 2);
}

/// <summary>The shopping list on paper and as a table.</summary>
public static class ShoppingPapers
{
    /// <summary>As a page.</summary>
    public static ListSheet ToSheet(this ShoppingList list) => new(
        "Shopping list",
        [$"{Look.Ui.Of(list.Lines.Length, "thread")}, {Look.Ui.Of(list.Lines.Sum(l => l.Cones), "cone")}"],
        [new("Maker", 1.6), new("Number", 1.1), new("Name", 2.2), new("Missing", 1, true), new("Cones", 0.7, true), new("Each", 0.8, true), new("Sum", 0.9, true), new("For", 2.4)],
        [.. list.Lines.Select(l => new SheetRow(l.Thread.Colour, [l.Thread.Maker, l.Thread.Number, l.Thread.Name, FetchList.Metres(l.Metres), $"{l.Cones}", Money(l.Price), Money(l.Sum), string.Join(", ", l.For)]))],
        [SumOf(list)]);

    /// <summary>As a table.</summary>
    public static byte[] ToCsv(this ShoppingList list) => RackTables.Write(
        ["maker", "number", "name", "colour", "missing_m", "cone_m", "cones", "price", "sum", "for"],
        list.Lines.Select(l => new[] { l.Thread.Maker, l.Thread.Number, l.Thread.Name, l.Thread.Colour.Hex, LengthText.Decimals(l.Metres, 2), LengthText.Decimals(l.ConeMetres, 1), $"{l.Cones}", Money(l.Price), Money(l.Sum), string.Join(", ", l.For) }));

    /// <summary>The sum in words.</summary>
    public static string SumOf(ShoppingList list) => $"Together {Money(list.Sum)}{(list.WithoutPrice > 0 ? $", without {Look.Ui.Of(list.WithoutPrice, "thread")} of unknown price" : string.Empty)}";

    /// <summary>A price; empty where it is not known. The currency is the user's own.</summary>
    public static string Money(decimal? price) => price?.ToString("0.00", CultureInfo.InvariantCulture) ?? string.Empty;
}
