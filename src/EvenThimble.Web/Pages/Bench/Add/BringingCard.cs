using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>A thread of a design that looks like one of the job's.</summary>
public sealed record SameThread(SewingThread Theirs, SewingThread Ours, double Difference)
{
    /// <summary>Names the pair in a form.</summary>
    public string Key => $"{Theirs.Maker}|{Theirs.Number}";
}

/// <summary>Designs of the shelf that are about to be brought in, and which of their threads look like the job's.</summary>
public sealed record BringingCard(BenchView Bench, IReadOnlyList<DesignCard> Designs, IReadOnlyList<SameThread> SameThreads)
{
    /// <summary>Up to this difference (CIEDE2000) threads are ticked as the same from the start.</summary>
    public const double LooksTheSame = 4;

    /// <summary>Up to this they are offered; the user agrees or not.</summary>
    private const double LooksAlike = 8;

    private const int MostAtOnce = 20;
    private const double Aside = 5;

    /// <summary>Asks about designs by their numbers.</summary>
    public static BringingCard Of(BenchView bench, long[] ids) => Look(bench, ids).Card;

    /// <summary>Brings designs in, about a place where one was dropped; the threads agreed to be the same are sewn with the job's own.</summary>
    public static BringDesigns Brought(BenchView bench, long[] ids, string[] same, Point? dropped)
    {
        var (card, loaded) = Look(bench, ids);
        var agreed = same.ToHashSet();
        var at = dropped is { } p && double.IsFinite(p.X) && double.IsFinite(p.Y) && Math.Abs(p.X) + Math.Abs(p.Y) < ShiftParts.FarthestMm ? p : (Point?)null;
        var brought = loaded.Select((d, i) => new BroughtDesign(d.Design.OriginalHash, d.File, at is { } place ? new(place.X + (i * Aside), place.Y + (i * Aside)) : Point.Zero)).ToImmutableArray();
        if (brought.IsEmpty) throw new EditRefusedException("Choose a design of the shelf first.");
        return new(brought, card.SameThreads.Where(t => agreed.Contains(t.Key)).ToImmutableDictionary(t => t.Theirs, t => t.Ours));
    }

    private static (BringingCard Card, List<(DesignCard Design, StitchFile File)> Loaded) Look(BenchView bench, long[] ids)
    {
        var (designs, blobs) = (bench.Get<DesignStore>(), bench.Get<BlobStore>());
        var loaded = ids.Distinct().Take(MostAtOnce).Select(designs.Find).OfType<DesignCard>().Select(d => (Design: d, File: designs.Load(d.Id, blobs)!)).Where(d => d.File is not null).ToList();
        var ours = bench.Job.Palette.Threads;
        var same = loaded.SelectMany(d => d.File.Threads).Distinct().Where(t => !ours.Contains(t) && ours.Length > 0)
            .Select(t => (Theirs: t, Best: ThreadSearch.ByLook(ours, t.Colour, 1)[0]))
            .Where(t => t.Best.Difference <= LooksAlike)
            .Select(t => new SameThread(t.Theirs, t.Best.Thread, t.Best.Difference ?? 0));
        return (new(bench, [.. loaded.Select(d => d.Design)], [.. same]), loaded);
    }
}
