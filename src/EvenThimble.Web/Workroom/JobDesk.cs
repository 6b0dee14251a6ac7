using System.Collections.Immutable;
using System.Security.Cryptography;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Ordering;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Rendering;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>A job with all that is computed from it, once a version.</summary>
public sealed class OpenJob
{
    private readonly Made<byte[]> _stream;
    private readonly Made<string> _planTag;
    private readonly Made<ImmutableArray<Finding>> _findings;
    private readonly Made<SewingEstimate> _estimate;
    private readonly Made<HoopedJob> _hooped;
    private readonly Made<byte[]> _picture;
    private readonly Made<Overlaps> _overlaps;

    /// <summary>Wraps a stored job and its plan.</summary>
    public OpenJob(StoredJob stored, SewingPlan plan, ILetterFaces fonts, MachineCatalogue machines)
    {
        (Stored, Plan, Machine, Field) = (stored, plan, machines.MachineOf(stored.Job.Hoop), machines.FieldOf(stored.Job.Hoop));
        _stream = new(() => PlanStream.Write(plan));
        _planTag = new(() => Convert.ToHexStringLower(SHA256.HashData(_stream.Value))[..24]);
        _hooped = new(() => HoopedJob.Of(Job, plan, machines));
        _findings = new(() => Inspector.Inspect(Job, plan, machines, fonts, Hooped));
        _picture = new(() => PictureOf(480, 360));
        _overlaps = new(() => Overlaps.Of(plan));
        _estimate = new(() => SewingEstimate.Of(plan, Machine, Job.Cloth.Profile.ThicknessMm).InHoopings([.. Hooped.Hoopings.Select(h => h.Plan)], Machine, Job.Cloth.Profile.ThicknessMm));
    }

    /// <summary>The job as stored.</summary>
    public StoredJob Stored { get; }

    /// <summary>The job.</summary>
    public Job Job => Stored.Job;

    /// <summary>The machine that it is meant for.</summary>
    public SewingMachineModel Machine { get; }

    /// <summary>The hoop field that it is meant for.</summary>
    public HoopField Field { get; }

    /// <summary>Its sewing plan.</summary>
    public SewingPlan Plan { get; }

    /// <summary>What is sewn each time that the cloth is hooped; once, where the job is not divided.</summary>
    public HoopedJob Hooped => _hooped.Value;

    /// <summary>The plan for the drawing script.</summary>
    public byte[] Stream => _stream.Value;

    /// <summary>Names the plan's stitches: the same tag, the same stitches.</summary>
    public string PlanTag => _planTag.Value;

    /// <summary>What readiness found for its own machine and hoop.</summary>
    public ImmutableArray<Finding> Findings => _findings.Value;

    /// <summary>Time and thread.</summary>
    public SewingEstimate Estimate => _estimate.Value;

    /// <summary>What lists tell of it.</summary>
    public JobSummary Summary => new(Plan.Bounds.Width, Plan.Bounds.Height, Plan.StitchCount, Machine.Name, Field.Name, Findings.Count(f => f.Level != FindingLevel.Note));

    /// <summary>Readiness in a few words.</summary>
    public string Readiness => Summary.Readiness;

    /// <summary>Which of its parts lie over each other.</summary>
    public Overlaps Overlaps => _overlaps.Value;

    /// <summary>Its picture (PNG) on its cloth.</summary>
    public byte[] Picture => _picture.Value;

    /// <summary>A picture (PNG) of a size in pixels.</summary>
    public byte[] PictureOf(int width, int height) => ThreadPainter.Picture(Plan.ToFile(Job.Title), width, height, Job.Cloth.Colour);

    /// <summary>The job as the contents of a stitch file under its title.</summary>
    public StitchFile ToFile() => ToFile(Job.Title);

    /// <summary>The job as the contents of one stitch file under a title: as it is sewn, or, where it is divided, as the whole that comes of it.</summary>
    public StitchFile ToFile(string title) => Hooped.IsDivided ? Plan.ToFile(title) with { Hoop = new(Field.Name, 1, 1, 0, 0) } : ToFile(title, Hooped.Hoopings[0]);

    /// <summary>One hooping as the contents of a stitch file under a title, the middle of its field at the origin.</summary>
    public static StitchFile ToFile(string title, HoopedPlan hooping) => hooping.AtMachine.ToFile(title) with { Hoop = hooping.Note };
}

/// <summary>Opens jobs and computes their plans; the recent ones are kept.</summary>
public sealed class JobDesk(JobStore jobs, BlobStore blobs, StitchMemory memory, ILetterFaces fonts, MachineCatalogue machines)
{
    private const long MostRecordsKept = 1_000_000;
    private readonly RecentlyMade<(long Id, long Version, int Hoops), OpenJob> _recent = new(MostRecordsKept, j => j.Plan.Records.Count + 1000);

    /// <summary>The job as it stands, or null.</summary>
    public OpenJob? Find(long id)
    {
        if (jobs.VersionOf(id) is not { } version) return null;
        return _recent.Get((id, version, machines.Version), () => Plan(jobs.Find(id) ?? throw new NoSuchJobException()));
    }

    /// <summary>What a list tells of a job: as it was written down, or computed now and written down. Where the job cannot be read, the sentence that says so.</summary>
    public (JobSummary? Summary, string? Trouble) Listed(JobLine line)
    {
        if (line.Summary is { } known) return (known, null);
        try
        {
            if (Find(line.Id) is not { } open) return (null, "This job was deleted meanwhile.");
            jobs.Summarise(open.Stored, open.Summary);
            return (open.Summary, null);
        }
        catch (Exception e) when (e is not OperationCanceledException && Refusals.Of(e) is { } refusal)
        {
            return (null, refusal.Sentence);
        }
    }

    /// <summary>The job as it stands after a change; its plan, where it was made already.</summary>
    public OpenJob Open(StoredJob stored, SewingPlan? plan = null) => _recent.Get((stored.Id, stored.Version, machines.Version), () => plan is null ? Plan(stored) : new(stored, plan, fonts, machines));

    /// <summary>The plan of a job as it would be; nothing of it is stored.</summary>
    /// <exception cref="Core.Text.RefusedException">There can be no such job, or no machine could sew it.</exception>
    public SewingPlan Try(Job job)
    {
        JobRules.Check(job);
        var plan = Sequencer.Plan(job, blobs, memory);
        PlanRules.Check(plan);
        return plan;
    }

    /// <summary>The plan with what later parts hide.</summary>
    public SewingPlan Whole(Job job) => Sequencer.Whole(job, blobs, memory);

    /// <summary>Where stored stitches come from.</summary>
    public IStitchSource Stitches => blobs;

    /// <summary>What the bought stitches of a part were read as.</summary>
    public IReadOnlyList<ReadStitches> Read(Part part) => [.. part.Slices.Select(s => memory.Read(blobs, s))];

    /// <summary>A picture (PNG) of what is drawn in a job as it would be on a cloth; of all when nothing is drawn.</summary>
    public byte[] PictureOn(OpenJob open, ClothProfile profile)
    {
        var (job, drawn) = (open.Job, open.Job.Order.Where(p => p.Drawn is not null).ToList());
        var shown = drawn.Count == 0 ? job : job with { Order = new([.. drawn]) };
        return ThreadPainter.Picture(Sequencer.Plan(shown with { Cloth = Cloth.Of(profile) }, blobs, memory).ToFile(job.Title), 300, 220, profile.UsualColour);
    }

    private OpenJob Plan(StoredJob stored) => new(stored, Sequencer.Plan(stored.Job, blobs, memory), fonts, machines);
}
