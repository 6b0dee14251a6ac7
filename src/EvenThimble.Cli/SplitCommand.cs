using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Cli;

/// <summary>Divides stitch files that are larger than a hoop, and writes a file for each hooping.</summary>
internal sealed class SplitCommand : FilesCommand
{
    private readonly HoopedFiles _hooped = new();
    private readonly Outputs _outputs = new();

    public SplitCommand(TextWriter says, TextWriter errors)
        : base("split", "Divide stitch files among hoopings, a numbered file for each.", "Stitch files.", says, errors)
    {
        _hooped.AddTo(this);
        _outputs.Out.Description = "The folder that the files go in.";
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var wanted = _hooped.Wanted(parsed) ?? throw new UsageException("Name the machine with --machine, and its hoop with --hoop.");
        var folder = parsed.GetValue(_outputs.Out)!;
        if (File.Exists(folder)) throw new UsageException($"{folder} is a file; -o has to be a folder.");
        return parsed.GetValue(Inputs)!.Select(input => new Work(input, folder, () => Divide(parsed, input, folder, wanted)));
    }

    private WorkResult Divide(ParseResult parsed, string input, string folder, (Core.Machines.SewingMachineModel Machine, Core.Machines.HoopField? Hoop) wanted)
    {
        var sheets = _hooped.Of(parsed, StitchFiles.Read(input), wanted);
        if (!sheets.Hooped.IsDivided) throw new EditRefusedException($"All of it fits {sheets.Machine.Name}, {sheets.Hooped.Hoopings[0].Place.Field.Name} as it is; there is nothing to divide. Use convert.");
        var (kind, most) = (sheets.Machine.Takes[0], sheets.Machine.NameLength);
        var stem = most is { } length ? Titles.Plain(Path.GetFileNameWithoutExtension(input), length) : Path.GetFileNameWithoutExtension(input);
        var title = most is { } letters ? Titles.Plain(sheets.Job.Title, letters) : sheets.Job.Title;
        var (lines, figures) = (new List<string> { $"{input}: {sheets.Hooped.Hoopings.Length} hoopings of {sheets.Machine.Name}, {sheets.Hooped.Hoopings[0].Place.Field.Name}" }, new List<object>());
        foreach (var hooping in sheets.Hooped.Hoopings)
        {
            var path = Path.Combine(folder, hooping.Named(stem, most) + kind.Extension);
            var file = hooping.AtMachine.ToFile(hooping.Named(title, most)) with { Hoop = hooping.Note };
            _outputs.Write(parsed, path, () => StitchFiles.Write(kind, file));
            lines.Add(string.Create(CultureInfo.InvariantCulture, $"  {path}: {hooping.InWords}, its field's middle at {hooping.Place.Centre.X:0.##}, {hooping.Place.Centre.Y:0.##} mm, {file.StitchCount:N0} stitches"));
            figures.Add(new
            {
                path,
                position = hooping.Hooping.Position,
                centreMm = new[] { Math.Round(hooping.Place.Centre.X, 3), Math.Round(hooping.Place.Centre.Y, 3) },
                stitches = file.StitchCount,
                widthMm = Math.Round(file.Bounds.Width, 2),
                heightMm = Math.Round(file.Bounds.Height, 2),
            });
        }

        if (parsed.GetValue(_hooped.Crosses)) lines.Add(sheets.Hooped.Crosses.IsEmpty ? "  no spot is reached by two hoopings, so there are no crosses" : $"  crosses at {string.Join("; ", sheets.Hooped.Crosses.Select(c => string.Create(CultureInfo.InvariantCulture, $"{c.X:0.##}, {c.Y:0.##}")))} mm");
        return new(lines, new { hoopings = figures, crossesMm = sheets.Hooped.Crosses.Select(c => new[] { c.X, c.Y }) });
    }
}
