using System.Collections.Immutable;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Packs a job for another computer, and unpacks one that came from there.</summary>
public sealed class JobCase(JobStore jobs, DesignStore designs, BlobStore blobs, LetterFonts fonts, LetterSets sets, MachineCatalogue machines)
{
    private const int MostSetBytes = 48 << 20;

    /// <summary>The job as an archive.</summary>
    public byte[] Pack(OpenJob open)
    {
        var job = open.Job;
        var stitches = JobDocument.StitchesOf(job).ToImmutableDictionary(h => h, blobs.Get);
        var originals = job.Pieces.Select(p => p.Content).OfType<DesignContent>().Select(d => d.Original).OfType<string>().Distinct()
            .Select(hash => designs.Original(hash) is { } o ? new ArchivedOriginal(o.FileName, o.Bytes) : null).OfType<ArchivedOriginal>();
        var archive = new JobArchive(job, stitches, [.. originals], open.Plan.StitchCount > 0 ? open.Picture : null)
        {
            Fonts = [.. job.Pieces.SelectMany(p => p.Content switch { LetteringContent l => [l.Font], NameSlotContent s => s.Slot.Fonts, _ => Enumerable.Empty<string>() }).Distinct().Select(fonts.ToTravel).OfType<ArchivedOriginal>()],
            Sets = [.. SetsOf(job)],
        };
        var bytes = archive.ToBytes();

        // What is handed out has been read again and found to be the same.
        if (!JobArchive.FromBytes(bytes).Job.Equals(job)) throw new StitchFileException("The job file could not be written so that it reads back the same. Nothing was saved; please try again.");
        return bytes;
    }

    /// <summary>Takes an archive in: its designs onto the shelf, its fonts and letter sets among those that are here, its job among the jobs. All of it is read and planned first; then the job is stored with its designs, or nothing of them.</summary>
    public (long Job, string Title) Unpack(byte[] bytes)
    {
        var archive = JobArchive.FromBytes(bytes);
        var plan = Sequencer.Plan(archive.Job, archive);
        PlanRules.Check(plan);
        var designs = archive.Originals.Select(o => Importer.Read(o.FileName, o.Bytes)).ToList();
        var toKeep = archive.Sets.Select(sets.ToKeep).ToList();
        foreach (var font in archive.Fonts) fonts.Add(font.FileName, font.Bytes);
        var job = jobs.Create(archive.Job, "Opened from a job file", archive.Stitches.Values, designs, JobSummary.Of(archive.Job, plan, machines, fonts));
        foreach (var keep in toKeep) keep?.Invoke();
        return (job, archive.Job.Title);
    }

    /// <summary>The letter sets that a job's words are written with, as many as fit into its file: it has the letters themselves anyway.</summary>
    private IEnumerable<ArchivedOriginal> SetsOf(Job job)
    {
        var left = MostSetBytes;
        foreach (var set in job.Pieces.Select(p => p.Content).OfType<LetterSetContent>().Select(c => c.Set).Distinct().Take(JobArchive.MostSets).Select(sets.ToTravel).OfType<ArchivedOriginal>())
        {
            if (set.Bytes.Length > left) continue;
            left -= set.Bytes.Length;
            yield return set;
        }
    }
}
