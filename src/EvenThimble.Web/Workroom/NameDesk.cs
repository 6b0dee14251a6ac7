using System.Collections.Immutable;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>How a roster is to be sewn.</summary>
/// <param name="Machine">On which machine.</param>
/// <param name="Way">In which files.</param>
/// <param name="Part">What of the job.</param>
/// <param name="Heads">On how many heads at once.</param>
public sealed record NameWish(SewingMachineModel Machine, SewingWay Way, SewnPart Part, int Heads);

/// <summary>What came of handing a file for names over.</summary>
/// <param name="Arrival">Whether it arrived.</param>
/// <param name="Findings">What readiness found of this file and not of the job that is on the bench.</param>
public sealed record NameArrival(Arrival Arrival, ImmutableArray<Finding> Findings);

/// <summary>The names of jobs: laid, drawn, written for machines and handed over.</summary>
public sealed class NameDesk(JobDesk desk, StitchMemory memory, ILetterFaces faces, MachineCatalogue machines, HandOver handOver, SewingQueue queue, ThreadBox box)
{
    private const long MostPictureBytes = 32L << 20;
    private const int MostRolls = 8;

    // So many names are stitched while somebody waits for a page.
    private const int AtOnce = 25;
    private const double PictureBorderMm = 1;
    private const double PicturePixelsPerMm = 6;
    private const double MostPictureWidth = 900;
    private readonly RecentlyMade<(long Job, long Version), NameRoll> _stitched = new(MostRolls, _ => 1);
    private readonly System.Collections.Concurrent.ConcurrentDictionary<(long Job, long Version), bool> _allStitched = new();
    private readonly NameFits _fits = new();
    private readonly RecentlyMade<(long Job, long Version), NameRoll> _rolls = new(MostRolls, _ => 1);
    private readonly RecentlyMade<(long Job, long Version, int Person), byte[]> _pictures = new(MostPictureBytes, p => p.Length + 200);

    /// <summary>The names of a job, laid; those of a short roster, or of one that was stitched already, with what is seen in their stitches.</summary>
    /// <exception cref="EditRefusedException">It has no roster or no slot; a sentence.</exception>
    public NameRoll RollOf(OpenJob open)
    {
        var key = (open.Stored.Id, open.Stored.Version);
        var laid = _rolls.Get(key, () => NameRoll.Of(open.Job, faces, _fits));
        return IsStitched(open, laid) ? _stitched.Get(key, () => laid.Stitched(desk.Stitches, memory)) : laid;
    }

    /// <summary>Whether all names of a job were stitched, or are so few that nobody waits for it.</summary>
    public bool IsStitched(OpenJob open, NameRoll roll) => roll.All.Length <= AtOnce || _allStitched.ContainsKey((open.Stored.Id, open.Stored.Version));

    /// <summary>Stitches some names of a job; the number of the next, from 0.</summary>
    public int StitchSome(OpenJob open, int from)
    {
        var roll = RollOf(open);
        var next = Math.Min(roll.All.Length, from + AtOnce);
        for (var n = from; n < next; n++)
            if (roll.All[n].CanBeSewn)
                roll.Plan(roll.All[n], desk.Stitches, memory);
        if (next < roll.All.Length) return next;
        if (_allStitched.Count >= MostRolls) _allStitched.Clear();
        _allStitched[(open.Stored.Id, open.Stored.Version)] = true;
        return next;
    }

    /// <summary>The names of a job as it would be, laid.</summary>
    /// <exception cref="EditRefusedException">It has no roster or no slot; a sentence.</exception>
    public NameRoll RollOf(Job job) => NameRoll.Of(job, faces, _fits);

    /// <summary>A picture (PNG) of one name as thread: the box of its slots, so that all names are seen at one scale.</summary>
    public byte[] PictureOf(OpenJob open, RollName name) => _pictures.Get((open.Stored.Id, open.Stored.Version, name.Person.Id.Value), () =>
    {
        var (plan, slots) = (RollOf(open).Plan(name, desk.Stitches, memory), name.Slots.Select(s => s.Slot).ToHashSet());
        var box = open.Job.Pieces.Where(p => slots.Contains(p.Id)).Aggregate(plan.Bounds, (all, piece) =>
        {
            var (slot, at) = NameSlot.Of(piece);
            foreach (var (x, y) in new[] { (-1, -1), (1, -1), (1, 1), (-1, 1) }) all = all.With(at.Place(new(x * slot.WidthMm / 2, y * slot.HeightMm / 2)));
            return all;
        });
        return ThreadPainter.PictureOf(plan.ToFile(name.Text), box.Grown(PictureBorderMm), Math.Min(PicturePixelsPerMm, MostPictureWidth / box.Width), open.Job.Cloth.Colour, lines: false);
    });

    /// <summary>The files that a roster is sewn with.</summary>
    /// <exception cref="EditRefusedException">It cannot be sewn so; a sentence.</exception>
    public GarmentFiles FilesOf(OpenJob open, NameWish wish)
    {
        var field = open.Machine.Id == wish.Machine.Id ? open.Field : wish.Machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(open.Plan, h)) ?? wish.Machine.Hoops[^1];
        return new(open.Job, RollOf(open), desk.Stitches, machines, wish.Machine, field, faces, memory);
    }

    /// <summary>The bytes of a file, read back and compared.</summary>
    /// <exception cref="StitchFileException">It cannot be written.</exception>
    public byte[] Write(OpenJob open, NameWish wish, GarmentFile file)
    {
        var kind = wish.Machine.Takes[0];
        var written = JobFiles.WithPicture(file.ToFile(), kind, open.Job.Cloth.Colour);
        if (box.NeedlesFor(open, wish.Machine) is { } needles)
        {
            var of = open.Plan.Parts.Select((p, n) => (p.Thread, Needle: needles.NeedleOfPart[n])).DistinctBy(p => p.Thread).ToDictionary(p => p.Thread, p => p.Needle);
            if (file.Plan.Parts.All(p => of.ContainsKey(p.Thread))) written = written with { Needles = [.. file.Plan.Parts.Select(p => of[p.Thread])] };
        }

        return StitchFormats.Write(kind, written);
    }

    /// <summary>Writes files of the list one after the other, puts them where they should go, looks that they arrived, and puts what arrived in the machine's queue.</summary>
    /// <param name="open">The job.</param>
    /// <param name="wish">How it is sewn.</param>
    /// <param name="drawerId">The machine or stick that they go to.</param>
    /// <param name="replace">Whether files of the same names are replaced.</param>
    /// <param name="only">The numbers of the files in the list, from 0; null: all.</param>
    public IReadOnlyList<NameArrival> Deliver(OpenJob open, NameWish wish, string drawerId, bool replace, IReadOnlySet<int>? only = null)
    {
        var (files, kind) = (FilesOf(open, wish), wish.Machine.Takes[0]);
        var (arrivals, sewn, known) = (new List<NameArrival>(), new List<(string, string, int)>(), open.Findings.Select(f => f.Says).ToHashSet());
        var listed = files.Listed(wish.Way, wish.Part, wish.Heads);
        for (var n = 0; n < listed.Count; n++)
        {
            if (only is not null && !only.Contains(n)) continue;
            var (stem, garments) = listed[n];
            var name = stem + kind.Extension;
            ImmutableArray<Finding> findings = [];
            var arrival = handOver.Deliver(wish.Machine, name, drawerId, replace, () =>
            {
                var made = files.Made(stem, garments, wish.Way, wish.Part);
                findings = [.. made.Findings.Where(f => f.Level != FindingLevel.Note && !known.Contains(f.Says))];
                return made.InTrouble
                    ? throw new EditRefusedException($"{wish.Machine.Name} would not list it. {string.Join(' ', made.Findings.Where(f => f.Level == FindingLevel.Trouble).Select(f => f.Says))}")
                    : Write(open, wish, made);
            });
            arrivals.Add(new(arrival, findings));
            if (arrival.Done) sewn.Add((name, InWords(garments, open.Job.Title), garments is [{ Head: null } one] ? one.Copies : 1));
        }

        if (sewn.Count > 0) queue.Add(wish.Machine.Id, open.Stored.Id, open.Job.Title, sewn);
        return arrivals;
    }

    /// <summary>Whose garments a file sews, in words.</summary>
    public static string InWords(ImmutableArray<SewnGarment> garments, string title) => garments.IsEmpty ? title
        : string.Join(", ", garments.Select(g => $"{(g.Head is { } head ? $"head {head}: " : string.Empty)}{g.Name.Text}{(g.Name.Person.Garment.Length > 0 ? $" ({g.Name.Person.Garment})" : string.Empty)}"));
}
