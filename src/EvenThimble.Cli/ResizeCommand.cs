using System.CommandLine;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Cli;

/// <summary>Makes designs larger or smaller: their stitches are made anew at the spacing they had, or stretched.</summary>
internal sealed class ResizeCommand : FilesCommand
{
    private readonly Outputs _outputs = new();
    private readonly Option<double> _percent = new("--percent") { Description = "Size, as part of how it came.", Required = true };
    private readonly Option<bool> _stretch = new("--stretch") { Description = "Keep every stitch, longer or shorter." };
    private readonly Option<double?> _spacing = new("--spacing-percent") { Description = "Spacing, as part of what it was; more is lighter." };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public ResizeCommand(TextWriter says, TextWriter errors)
        : base("resize", "Make designs larger or smaller.", "Stitch files.", says, errors)
    {
        foreach (var option in new Option[] { _percent, _stretch, _spacing, _revision }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        if (parsed.GetValue(_stretch) && parsed.GetValue(_spacing) is not null) throw new UsageException("Stretched stitches keep their own spacing: say either --stretch or --spacing-percent.");
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, input, ".evth");
            var kind = StitchFiles.KindOf(path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var design = StitchFiles.Read(input);
                var file = Resized(parsed, design);
                _outputs.Write(parsed, path, () => StitchFiles.Write(kind, file));
                return StitchFiles.Told(path, file, [.. design.Notes, .. StitchFormats.Losses(kind, file)]);
            });
        }
    }

    private StitchFile Resized(ParseResult parsed, StitchFile design)
    {
        var job = StitchFiles.JobOf(design);
        var all = job.Order.Select(p => p.Id).ToHashSet();
        var times = parsed.GetValue(_percent) / 100;
        if (parsed.GetValue(_stretch)) job = new ChooseResizeMode(all, ResizeMode.Stretch).Apply(job);
        if (parsed.GetValue(_spacing) is { } spacing) job = new ChangeSpacing(all, spacing / 100).Apply(job);
        job = new ResizeParts(all, times, times, design.Bounds.Middle).Apply(job);
        return StitchFiles.FileOf(job, new StitchFiles.Held([design]));
    }
}
