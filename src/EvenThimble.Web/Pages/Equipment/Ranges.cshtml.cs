using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Equipment;

/// <summary>The charts: which ranges one buys, and charts of one's own.</summary>
public sealed class RangesModel(ThreadStore charts) : PageModel
{
    private const long LargestList = 16L << 20;
    private const int MostShown = 400;

    /// <summary>All charts, those that are bought first.</summary>
    public IReadOnlyList<ListedChart> Listed => charts.Listed;

    /// <summary>The chart that is looked at; null: none.</summary>
    public ThreadChart? Looked { get; private set; }

    /// <summary>Threads of it that are shown.</summary>
    public IReadOnlyList<ChartThread> Shown => Looked is { } chart ? [.. chart.Sold.Take(MostShown)] : [];

    /// <summary>A list as it was understood, before it is taken.</summary>
    public (TypedTable Table, ReadChart Read, string Text)? Offered { get; private set; }

    /// <summary>What was typed of a chart to come.</summary>
    public (string Maker, string Range) Typed { get; private set; } = (string.Empty, string.Empty);

    /// <summary>What came of the last thing that was done, in a sentence.</summary>
    public string? Says { get; private set; }

    /// <summary>It was refused.</summary>
    public bool Trouble { get; private set; }

    public void OnGet(string? chart) => Looked = charts.Charts.FirstOrDefault(c => c.Key == chart);

    /// <summary>A chart as a table.</summary>
    public IActionResult OnGetExport(string chart) => charts.Charts.FirstOrDefault(c => c.Key == chart) is { } found
        ? File(ChartTable.Write(found), "text/csv", Titles.FileName($"{found.Maker} {found.Range}") + ".csv")
        : NotFound();

    /// <summary>Buys a range or no longer does, or moves it up among those that are bought.</summary>
    public IActionResult OnPostBuy(string chart, string how) => Done(() =>
    {
        var bought = Listed.Where(l => l.Bought is not null).Select(l => l.Chart.Key).ToList();
        var at = bought.IndexOf(chart);
        if (how == "buy" && at < 0) bought.Add(chart);
        else if (how == "no" && at >= 0) bought.RemoveAt(at);
        else if (how == "up" && at > 0) (bought[at - 1], bought[at]) = (bought[at], bought[at - 1]);
        charts.Buy(bought);
        return null;
    });

    /// <summary>Takes a chart of one's own out.</summary>
    public IActionResult OnPostTakeOut(string chart) => Done(() => charts.TakeOut(chart) ? "That chart was taken out. Cones of it stay on their racks." : "That chart comes with the program and stays.");

    /// <summary>Looks what a list holds, before anything is taken.</summary>
    public IActionResult OnPostLook(string? maker, string? range, string? lines, IFormFile? file) => Done(() =>
    {
        Typed = (Titles.Clean(maker), Titles.Clean(range));
        var table = ReadTable(lines, file);
        var read = ChartTable.Read(table, Typed.Maker, Typed.Range);

        // What was read is sent along as text of our own, so that taking it needs no file a second time.
        Offered = (table, read, System.Text.Encoding.UTF8.GetString(ChartTable.Write(read.Chart)));
        return null;
    });

    /// <summary>Takes a list that was looked at.</summary>
    public IActionResult OnPostTake(string? maker, string? range, string? lines) => Done(() =>
    {
        Typed = (Titles.Clean(maker), Titles.Clean(range));
        var read = ChartTable.Read(TypedTable.Read(lines ?? string.Empty, ChartTable.MostThreads + 1), Typed.Maker, Typed.Range);
        var known = charts.Charts.FirstOrDefault(c => c.Maker == Typed.Maker && c.Range == Typed.Range);
        var left = charts.LayIn(read.Chart);
        Looked = charts.Charts.First(c => c.Maker == Typed.Maker && c.Range == Typed.Range);
        var fresh = Looked.Sold.Count - (known?.Sold.Count ?? 0);
        return $"{Typed.Maker} {Typed.Range}: {fresh:N0} new, {read.Chart.Sold.Count - left.Count - fresh:N0} brought up to date{(left.Count > 0 ? $"; {left.Count:N0} left out, since another range of {Typed.Maker} has those numbers already ({string.Join(", ", left.Take(5))}{(left.Count > 5 ? " …" : string.Empty)})" : string.Empty)}.";
    });

    /// <summary>One thread, added by hand.</summary>
    public IActionResult OnPostThread(string? maker, string? range, string? number, string? name, string? colour, string? metres, string? price) => Done(() =>
    {
        var (by, of, code) = (Titles.Clean(maker), Titles.Clean(range), Titles.Clean(number));
        if (code.Length is 0 or > 40) throw new EditRefusedException("A thread needs a number of 1 to 40 letters and digits.");
        if (!Rgb.TryParse(colour, out var look)) throw new EditRefusedException("That is no colour.");
        var make = ThreadMake.Of(of);
        var cone = string.IsNullOrWhiteSpace(metres) ? make.UsualConeMetres : LengthText.TryParse(metres.Trim().TrimEnd('m'), LengthUnit.Millimetre, out var m) && m is >= 1 and <= Core.Rack.Cone.LongestMetres ? m : throw new EditRefusedException($"“{Titles.Clean(metres)}” is no length of a cone in metres.");
        decimal? each = string.IsNullOrWhiteSpace(price) ? null : decimal.TryParse(price.Trim().Replace(',', '.'), System.Globalization.CultureInfo.InvariantCulture, out var p) && p is >= 0 and <= 100_000 ? p : throw new EditRefusedException($"“{Titles.Clean(price)}” is no price.");
        var thread = new SewingThread(by, code, Titles.Clean(name) is { Length: > 0 } called ? called : code, look);
        if (charts.LayIn(new(by, of, [new(thread, make, cone, each)])).Count > 0) throw new EditRefusedException($"Another range of {by} has the number {code} already.");
        Looked = charts.Charts.First(c => c.Maker == by && c.Range == of);
        return $"{thread.Label} is in {by} {of}.";
    });

    private static TypedTable ReadTable(string? lines, IFormFile? file)
    {
        if (file is not { Length: > 0 })
            return string.IsNullOrWhiteSpace(lines) ? throw new EditRefusedException("Choose a file or paste a list, a thread a line.") : TypedTable.Read(lines, ChartTable.MostThreads + 1);
        if (file.Length > LargestList) throw new EditRefusedException($"A list of threads has at most {LargestList >> 20} MB.");
        using var bytes = new MemoryStream();
        file.CopyTo(bytes);
        return TypedTable.Read(bytes.ToArray(), ChartTable.MostThreads + 1);
    }

    private IActionResult Done(Func<string?> work)
    {
        try
        {
            Says = work();
        }
        catch (EditRefusedException e)
        {
            (Says, Trouble) = (e.Message, true);
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }

        return Page();
    }
}
