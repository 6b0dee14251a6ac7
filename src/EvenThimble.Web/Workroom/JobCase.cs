using System.Collections.Immutable;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Packs a job for another computer, and unpacks one that came from there.</summary>
public sealed class JobCase(JobStore jobs, DesignStore designs, BlobStore blobs, Importer importer)
{
    /// <summary>The job as an archive.</summary>
    public byte[] Pack(OpenJob open)
    {
        var job = open.Job;
        var stitches = JobDocument.StitchesOf(job).ToImmutableDictionary(h => h, blobs.Get);
        var originals = job.Pieces.Select(p => p.Content).OfType<DesignContent>().Select(d => d.Original).OfType<string>().Distinct()
            .Select(hash => designs.Original(hash) is { } o ? new ArchivedOriginal(o.FileName, o.Bytes) : null).OfType<ArchivedOriginal>();
        var archive = new JobArchive(job, stitches, [.. originals], open.Plan.StitchCount > 0 ? open.Picture : null);
        var bytes = archive.ToBytes();

        // What is handed out has been read again and found to be the same.
        if (!JobArchive.FromBytes(bytes).Job.Equals(job)) throw new StitchFileException("The job file could not be written so that it reads back the same. Nothing was saved; please try again.");
        return bytes;
    }

    /// <summary>Takes an archive in: its designs onto the shelf, its job among the jobs. Nothing is stored unless all of it can be read.</summary>
    public (long Job, string Title) Unpack(byte[] bytes)
    {
        var archive = JobArchive.FromBytes(bytes);
        foreach (var original in archive.Originals) importer.Import(original.FileName, original.Bytes);
        return (jobs.Create(archive.Job, "Opened from a job file", archive.Stitches.Values), archive.Job.Title);
    }
}
