using System.CommandLine;
using EvenThimble.Core.Files.Stitch;

namespace EvenThimble.Cli;

/// <summary>Writes stitch files in another kind, by the ending of the name.</summary>
internal sealed class ConvertCommand : FilesCommand
{
    private readonly Outputs _outputs = new();
    private readonly Option<string> _to = new("--to") { Description = "The ending that files get in a folder.", DefaultValueFactory = _ => ".evth" };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public ConvertCommand(TextWriter says, TextWriter errors)
        : base("convert", "Write stitch files in another kind.", "Stitch files: .evth, .csv, .svg stitch plans, .gcode.", says, errors)
    {
        Add(_to);
        Add(_revision);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var ending = "." + parsed.GetValue(_to)!.TrimStart('.');
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, input, ending);
            var kind = StitchFiles.KindOf(path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var file = StitchFiles.Read(input);
                _outputs.Write(parsed, path, () => StitchFiles.Write(kind, file));
                return StitchFiles.Told(path, file, [.. file.Notes, .. StitchFormats.Losses(kind, file)]);
            });
        }
    }
}
