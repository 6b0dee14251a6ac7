using System.Collections.Immutable;
using System.CommandLine;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Threads;

namespace EvenThimble.Cli;

/// <summary>Lays designs over each other, each in its own place, the first sewn first.</summary>
internal sealed class MergeCommand : FilesCommand
{
    private readonly Outputs _outputs = new();
    private readonly Option<bool> _onlySeen = new("--only-seen") { Description = "Leave out what later designs hide." };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public MergeCommand(TextWriter says, TextWriter errors)
        : base("merge", "Lay designs over each other.", "Stitch files, in the order they sew.", says, errors)
    {
        Add(_onlySeen);
        Add(_revision);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var inputs = parsed.GetValue(Inputs)!;
        if (inputs.Length < 2) throw new UsageException("Merging needs two files at least.");
        var path = parsed.GetValue(_outputs.Out)!;
        var kind = StitchFiles.KindOf(path, parsed.GetValue(_revision));
        yield return new(string.Join(", ", inputs), path, () =>
        {
            var designs = inputs.Select(StitchFiles.Read).ToList();
            var brought = new BringDesigns([.. designs.Skip(1).Select(d => new BroughtDesign(null, d, null))], ImmutableDictionary<SewingThread, SewingThread>.Empty);
            var job = brought.Apply(StitchFiles.JobOf(designs[0])) with { SewsOnlySeen = parsed.GetValue(_onlySeen) };
            var file = StitchFiles.FileOf(job, new StitchFiles.Held(designs));
            _outputs.Write(parsed, path, () => StitchFiles.Write(kind, file));
            return StitchFiles.Told(path, file, [.. designs.SelectMany(d => d.Notes), .. StitchFormats.Losses(kind, file)]);
        });
    }
}
