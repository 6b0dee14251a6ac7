using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Readiness;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Hoop card shows: each hoop with how the job lies in it, and the hoopings.</summary>
public sealed class HoopCard
{
    private HoopCard(BenchView bench)
    {
        Bench = bench;
        Hoops = FitAdvisor.Advise(bench.Job, bench.Open.Plan, bench.Open.Machine);
    }

    /// <summary>The bench.</summary>
    public BenchView Bench { get; }

    /// <summary>The machine's hoops.</summary>
    public IReadOnlyList<HoopAdvice> Hoops { get; }

    /// <summary>The job hooping by hooping.</summary>
    public HoopedJob Hooped => Bench.Open.Hooped;

    /// <summary>The hoopings that what is selected sews in, in words; empty where nothing is selected.</summary>
    public string SelectedSewIn => Bench.Selected.SelectMany(p => Hooped.HoopingsOf(p.Id)).Distinct().Order().Select(n => $"{n + 1}").ToList() is { Count: > 0 } all ? string.Join(" and ", all) : string.Empty;

    /// <summary>The hooping that everything selected was given to by hand; null: none, or not all to one.</summary>
    public int? GivenTo => Bench.Selected.Select(p => Bench.Job.Split.Given.Where(g => g.Part == p.Id).Select(g => (int?)g.Hooping).FirstOrDefault()).Distinct().ToList() is [var one] ? one : null;

    /// <summary>The card of a bench.</summary>
    public static HoopCard Of(BenchView bench) => new(bench);

    /// <summary>The remedy of a key for one of the machine's hoops.</summary>
    public Remedy? Find(string? key) => Hoops.SelectMany(h => h.Remedies).FirstOrDefault(r => r.Key == key);

    /// <summary>In words what a rest of the needle is.</summary>
    public static string InWords(NeedleRest rest) => rest switch
    {
        NeedleRest.Centre => "the centre of the field",
        NeedleRest.FarLeft => "the far left corner",
        NeedleRest.FarRight => "the far right corner",
        NeedleRest.NearLeft => "the near left corner",
        NeedleRest.NearRight => "the near right corner",
        _ => "where the stitches have it",
    };

    /// <summary>In words where basting goes.</summary>
    public static string InWords(Basting basting) => basting switch
    {
        Basting.AroundTheJob => "around what is sewn",
        Basting.AlongTheField => "along the edge of the field",
        _ => "none",
    };
}
