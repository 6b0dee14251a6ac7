using System.CommandLine;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Cli;

/// <summary>Makes stitches of vector drawings, as the bench does when a drawing is brought in.</summary>
internal sealed class StitchCommand : FilesCommand
{
    private const string Automatic = "automatic";
    private readonly Outputs _outputs = new();
    private readonly Option<double> _width = new("--width") { Description = "Width of the drawing's page, mm.", Required = true };
    private readonly Option<string> _cloth = new("--cloth") { Description = "What it is sewn on, by name.", DefaultValueFactory = _ => ClothProfiles.Cotton.Name };
    private readonly Option<string> _way = new Option<string>("--way") { Description = "How shapes are stitched; automatic: as the bench suggests for each.", DefaultValueFactory = _ => Automatic }
        .AcceptOnlyFromAmong(Automatic, BroughtDrawing.Fill, BroughtDrawing.Satin, BroughtDrawing.Run);

    private readonly Option<double?> _spacing = new("--spacing") { Description = "Between rows or throws, mm; else as the cloth asks for." };
    private readonly Option<double?> _angle = new("--angle") { Description = "Direction of rows, degrees clockwise from across." };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public StitchCommand(TextWriter says, TextWriter errors)
        : base("stitch", "Make stitches of vector drawings.", "SVG drawings.", says, errors)
    {
        foreach (var option in new Option[] { _width, _cloth, _way, _spacing, _angle, _revision }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var cloth = Cloths.Named(parsed.GetValue(_cloth)!);
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, input, ".evth");
            var kind = StitchFiles.KindOf(path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var drawing = SvgDrawing.Read(StitchFiles.Bytes(input, SvgDrawing.LargestFile));
                var file = Stitched(parsed, Titles.FromFileName(input.Replace('-', ' ')), drawing, cloth);
                _outputs.Write(parsed, path, () => StitchFiles.Write(kind, file));
                return StitchFiles.Told(path, file, [.. drawing.Notes, .. StitchFormats.Losses(kind, file)]);
            });
        }
    }

    private Core.Stitches.StitchFile Stitched(ParseResult parsed, string name, SvgDrawing drawing, ClothProfile cloth)
    {
        var way = parsed.GetValue(_way)!;
        var added = BroughtDrawing.Of(name, drawing, parsed.GetValue(_width), i => way == Automatic ? null : BroughtDrawing.ChoicesFor(drawing.Shapes[i]).Contains(way) ? way : null, MadeUpCharts.All[0].Threads);
        var job = added.Apply(Job.New(StitchFiles.Machines.UsualHoop) with { Title = name, Cloth = Cloth.Of(cloth) });
        var changes = new (SettingRange Range, double? Value)[] { (SettingRange.Spacing, parsed.GetValue(_spacing)), (SettingRange.Angle, parsed.GetValue(_angle)) }
            .Where(c => c.Value is not null).Select(c => new SettingChange(c.Range.Says, null, s => c.Range.With(s, c.Value))).ToList();
        if (changes.Count > 0) job = new Restitch(job.Order.Select(p => p.Id).ToHashSet(), [.. changes]).Apply(job);
        var none = new StitchFiles.Held([]);
        return StitchFiles.FileOf(job with { Hoopings = [new(StitchFiles.Machines.HoopFor(Sequencer.Plan(job, none).Bounds))] }, none);
    }
}

/// <summary>Cloths by the names that people call them.</summary>
internal static class Cloths
{
    /// <summary>The profile of a name or short name.</summary>
    /// <exception cref="UsageException">There is none.</exception>
    public static ClothProfile Named(string name) =>
        ClothProfiles.All.FirstOrDefault(c => c.Name.Equals(name, StringComparison.OrdinalIgnoreCase) || c.Id.Equals(name, StringComparison.OrdinalIgnoreCase))
        ?? throw new UsageException($"“{name}” is no cloth that is known here; there are {string.Join(", ", ClothProfiles.All.Select(c => c.Name))}.");
}
