using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Rack;

/// <summary>The rack: the cones that one owns, how much is left of them and where they stand.</summary>
public sealed class IndexModel(RackStore racks, ThreadStore charts) : PageModel
{
    /// <summary>More rows than this are shown only when they are asked for.</summary>
    public const int MostShown = 150;

    private const long LargestList = 16L << 20;

    /// <summary>Which rack.</summary>
    [BindProperty(SupportsGet = true, Name = "rack")]
    public long? RackId { get; set; }

    /// <summary>What is looked for: a number, a name or a colour.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>Which cones: low, empty, unused; else all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Show { get; set; }

    /// <summary>Shows however many there are.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Every { get; set; }

    /// <summary>Whose numbers are meant where none is named.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Maker { get; set; }

    /// <summary>The rack.</summary>
    public RackLine Rack { get; private set; } = null!;

    /// <summary>All racks.</summary>
    public IReadOnlyList<RackLine> Racks { get; private set; } = [];

    /// <summary>All cones of the rack.</summary>
    public IReadOnlyList<Cone> All { get; private set; } = [];

    /// <summary>Those that were asked for.</summary>
    public IReadOnlyList<Cone> Cones { get; private set; } = [];

    /// <summary>The charts.</summary>
    public IReadOnlyList<ThreadChart> Charts => charts.Charts;

    /// <summary>What came of the last thing that was done, in a sentence.</summary>
    public string? Says { get; private set; }

    /// <summary>It was refused.</summary>
    public bool Trouble { get; private set; }

    /// <summary>Lines that could not be understood.</summary>
    public IReadOnlyList<LineAside> Aside { get; private set; } = [];

    public void OnGet() => Shown();

    /// <summary>The list alone, for a search.</summary>
    public IActionResult OnGetList()
    {
        Shown();
        return Partial("_Cones", this);
    }

    /// <summary>The rack as a table.</summary>
    public IActionResult OnGetExport()
    {
        Shown();
        return File(RackList.Write(All), "text/csv", Titles.FileName(Rack.Name) + ".csv");
    }

    /// <summary>One line that was typed, such as a number.</summary>
    public IActionResult OnPostAdd(string? line) => Done(rack =>
    {
        if (string.IsNullOrWhiteSpace(line)) throw new EditRefusedException("Type the number of a thread, such as 1001.");
        var read = RackList.Read(TypedTable.Read(line, 1), charts.Known, Maker);
        if (read.Cones.IsEmpty) throw new EditRefusedException(read.Aside is [var aside, ..] ? aside.Why : $"“{Titles.Clean(line)}” is no number of a thread.");
        racks.Put(rack, read.Cones);
        var cone = read.Cones[0];
        var now = racks.Cones(rack).First(c => c.Thread.IsSameAs(cone.Thread));
        return $"{cone.Thread.Label}: {(now.Count == 1 ? "one cone" : $"{now.Count} cones")} on the rack.";
    });

    /// <summary>Lines that were pasted.</summary>
    public IActionResult OnPostPaste(string? lines) => Done(rack =>
        string.IsNullOrWhiteSpace(lines) ? throw new EditRefusedException("Paste a list first, a thread a line.") : Taken(rack, TypedTable.Read(lines, RackList.MostLines)));

    /// <summary>A list as a file.</summary>
    public IActionResult OnPostImport(IFormFile? file) => Done(rack =>
    {
        if (file is null || file.Length == 0) throw new EditRefusedException("Choose a file with a list of cones, such as a CSV.");
        if (file.Length > LargestList) throw new EditRefusedException($"A list of cones has at most {LargestList >> 20} MB.");
        using var bytes = new MemoryStream();
        file.CopyTo(bytes);
        return Taken(rack, TypedTable.Read(bytes.ToArray(), RackList.MostLines));
    });

    /// <summary>A full cone of each thread of a range.</summary>
    public IActionResult OnPostRange(string? chart) => Done(rack =>
    {
        var range = charts.Charts.FirstOrDefault(c => c.Key == chart) ?? throw new EditRefusedException("Choose a range.");
        var there = racks.Cones(rack).Select(c => (c.Thread.Maker, c.Thread.Number)).ToHashSet();
        var fresh = range.Sold.Where(s => !there.Contains((s.Thread.Maker, s.Thread.Number))).Select(s => Cone.Full(s)).ToList();
        racks.Put(rack, fresh);
        return $"{Look.Ui.Of(fresh.Count, "cone")} of {range.Maker} {range.Range} put on the rack{(fresh.Count < range.Sold.Count ? $"; the other {range.Sold.Count - fresh.Count} are there already" : string.Empty)}.";
    });

    /// <summary>What is told anew of the cones of one thread; what is not told stays.</summary>
    public IActionResult OnPostChange(string? of, string? number, string? left, string? count, string? full, string? stands, string? low, string? empty) => Done(rack =>
    {
        var changed = racks.Change(rack, of ?? string.Empty, number ?? string.Empty, cone => Told(cone, left, count, full, stands, low, empty))!;
        return $"{changed.Thread.Label}: {Metres(changed.LeftMetres)} left on {Look.Ui.Of(changed.Count, "cone")}.";
    });

    /// <summary>Takes the cones of a thread off.</summary>
    public IActionResult OnPostOff(string? of, string? number) => Done(rack =>
    {
        racks.Change(rack, of ?? string.Empty, number ?? string.Empty, _ => null);
        return $"{$"{of} {number}".Trim()} is off the rack.";
    });

    /// <summary>A new rack.</summary>
    public IActionResult OnPostRack(string? name)
    {
        try
        {
            return RedirectToPage(new { rack = racks.AddRack(name ?? string.Empty) });
        }
        catch (EditRefusedException e)
        {
            return Refused(e);
        }
    }

    /// <summary>Another name for the rack.</summary>
    public IActionResult OnPostRename(string? name) => Done(rack =>
    {
        racks.Rename(rack, name ?? string.Empty);
        return "Renamed.";
    });

    /// <summary>Takes the rack away.</summary>
    public IActionResult OnPostTakeAway() => Done(rack =>
    {
        racks.TakeAway(rack);
        return "That rack was taken away.";
    });

    /// <summary>Metres as lists show them.</summary>
    public static string Metres(double metres) => $"{LengthText.Decimals(metres, metres < 10 ? 1 : 0)} m";

    private static Cone Told(Cone cone, string? left, string? count, string? full, string? stands, string? low, string? empty)
    {
        if (full is not null) cone = cone with { FullMetres = Amount(full, "length of a full cone") };
        if (low is not null) cone = cone with { LowMetres = Amount(low, "length from which a cone is low") };
        if (empty is not null) cone = cone with { EmptyGrams = empty.Trim().Length == 0 ? null : Amount(empty.Replace("g", string.Empty, StringComparison.OrdinalIgnoreCase), "weight of a bare cone") };
        if (stands is not null) cone = cone with { Stands = Titles.Clean(stands) };
        if (count is not null)
        {
            if (!int.TryParse(count.Trim(), out var cones)) throw new EditRefusedException($"“{Titles.Clean(count)}” is no number of cones.");

            // Another cone is a full one; one that is gone was an empty one.
            cone = cone with { Count = cones, LeftMetres = cones > cone.Count ? cone.LeftMetres + ((cones - cone.Count) * cone.FullMetres) : Math.Min(cone.LeftMetres, cones * cone.FullMetres) };
        }

        return left is null ? cone : cone.Told(left);
    }

    private static double Amount(string text, string what) =>
        LengthText.TryParse(text.Trim().TrimEnd('m', 'M', ' '), LengthUnit.Millimetre, out var number) ? number : throw new EditRefusedException($"“{Titles.Clean(text)}” is no {what}.");

    private string Taken(long rack, TypedTable table)
    {
        var read = RackList.Read(table, charts.Known, Maker);
        var fresh = racks.Put(rack, read.Cones);
        Aside = read.Aside;
        return $"{Look.Ui.Of(read.Cones.Length, "thread")} taken, {fresh} new on the rack{(read.Together > 0 ? $"; {Look.Ui.Of(read.Together, "thread")} stood on several lines and {(read.Together == 1 ? "was" : "were")} counted together" : string.Empty)}{(Aside.Count > 0 ? $". {Look.Ui.Of(Aside.Count, "line")} kept aside below" : string.Empty)}.";
    }

    private IActionResult Done(Func<long, string> work)
    {
        var rack = racks.Rack(RackId).Id;
        try
        {
            Says = work(rack);
        }
        catch (EditRefusedException e)
        {
            return Refused(e);
        }

        return Answer();
    }

    private IActionResult Refused(EditRefusedException e)
    {
        (Says, Trouble) = (e.Message, true);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Answer();
    }

    private IActionResult Answer()
    {
        Shown();
        return Request.Headers.ContainsKey("HX-Request") ? Partial("_Cones", this) : Page();
    }

    private void Shown()
    {
        (Racks, Rack) = (racks.Racks, racks.Rack(RackId));
        All = racks.Cones(Rack.Id);
        var wanted = All.Where(c => Show switch { "low" => c.IsLow && !c.IsEmpty, "empty" => c.IsEmpty, "unused" => c.IsNeverUsed, _ => true }).ToList();
        if (!string.IsNullOrWhiteSpace(Find))
        {
            var cones = wanted.ToDictionary(c => (c.Thread.Maker, c.Thread.Number));
            wanted = [.. ThreadSearch.Find([.. wanted.Select(c => c.Thread)], Find, int.MaxValue).Select(m => cones[(m.Thread.Maker, m.Thread.Number)])];
        }

        Cones = wanted;
    }
}
