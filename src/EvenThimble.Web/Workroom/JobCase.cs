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
        var stitches = job.Order.SelectMany(p => p.Slices).Select(s => s.Blob).Distinct().ToImmutableDictionary(h => h, blobs.Get);
        var originals = job.Pieces.Select(p => p.DesignId).OfType<long>().Distinct()
            .Select(id => designs.Original(id) is { } o ? new ArchivedOriginal(id, o.FileName, o.Bytes) : null).OfType<ArchivedOriginal>();
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
        var ids = archive.Originals.ToDictionary(o => o.DesignId, o => importer.Import(o.FileName, o.Bytes).Id);
        blobs.PutAll(archive.Stitches.Values);
        var job = archive.Job with { Pieces = [.. archive.Job.Pieces.Select(p => p with { DesignId = p.DesignId is { } id && ids.TryGetValue(id, out var here) ? here : null })] };
        return (jobs.Create(job, "Opened from a job file"), job.Title);
    }
}
