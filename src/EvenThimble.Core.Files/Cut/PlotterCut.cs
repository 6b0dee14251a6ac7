using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Cut;

/// <summary>
/// Cut lines as commands of pen plotters (HP-GL, as its published reference has it): 40 units to the millimetre, y upwards from the near edge of the mat, a pen for each material. Read are moves
/// with the pen up and down; a line has to come back to where it began.
/// </summary>
internal sealed class PlotterCut : ICutFormat
{
    private const double UnitsPerMm = 40;
    private const int MostPens = 8;
    private const int PointsInACommand = 60;

    public CutFileKind Kind => CutFileKind.Plotter;

    public byte[] Write(CutFile file)
    {
        var text = new StringBuilder("IN;");
        string At(Point p) => $"{Units(p.X)},{Units(file.Height - p.Y)}";
        text.Append(CultureInfo.InvariantCulture, $"IP0,0,{Units(file.Width)},{Units(file.Height)};");
        for (var n = 0; n < file.Groups.Length; n++)
        {
            text.Append(CultureInfo.InvariantCulture, $"SP{(n % MostPens) + 1};\n");
            foreach (var line in file.Groups[n].Lines)
            {
                text.Append("PU").Append(At(line[0])).Append(';');
                foreach (var some in line.Skip(1).Append(line[0]).Chunk(PointsInACommand)) text.Append("PD").AppendJoin(',', some.Select(At)).Append(";\n");
            }
        }

        return Encoding.ASCII.GetBytes(text.Append("PU;SP0;\n").ToString());
    }

    public CutFile Read(byte[] bytes, string title)
    {
        if (bytes.Length > CutFormats.LargestFile) throw new StitchFileException("The plotter file is larger than any cut file.");
        var text = Encoding.Latin1.GetString(bytes);
        if (!text.Contains("PD", StringComparison.OrdinalIgnoreCase) || text.Any(c => char.IsControl(c) && !char.IsWhiteSpace(c))) throw new StitchFileException("It holds no plotter commands that draw a line.");
        var groups = new SortedDictionary<int, List<ImmutableArray<Point>>>();
        var (pen, down, relative, at, line, points) = (1, false, false, Point.Zero, new List<Point>(), 0);
        double? width = null, height = null;

        void End()
        {
            if (line.Count > 1)
            {
                if (line[0] != line[^1]) throw new StitchFileException("The plotter file has a line that does not come back to its beginning, which a cutter would leave hanging.");
                (groups.TryGetValue(pen, out var there) ? there : groups[pen] = []).Add([.. line[..^1].Select(p => p / UnitsPerMm)]);
            }

            line = [];
        }

        foreach (var command in text.Split(';', '\n').Select(c => c.Trim()).Where(c => c.Length >= 2))
        {
            var numbers = Numbers(command[2..]);
            switch (command[..2].ToUpperInvariant())
            {
                case "IN" or "DF" or "LT" or "VS" or "PT" or "FS" or "LB" or "CO":
                    break;
                case "IP":
                    if (numbers.Count >= 4) (width, height) = ((numbers[2] - numbers[0]) / UnitsPerMm, (numbers[3] - numbers[1]) / UnitsPerMm);
                    break;
                case "SC":
                    throw new StitchFileException("The plotter file has units of its own (SC), so its size cannot be known.");
                case "SP":
                    End();
                    pen = numbers.Count > 0 ? (int)numbers[0] : 0;
                    break;
                case "PU":
                    End();
                    down = false;
                    Move(numbers);
                    break;
                case "PD":
                    down = true;
                    if (line.Count == 0) line.Add(at);
                    Move(numbers);
                    break;
                case "PA" or "PR":
                    relative = command.StartsWith("PR", StringComparison.OrdinalIgnoreCase);
                    Move(numbers);
                    break;
                case var other:
                    throw new StitchFileException($"The plotter file has a command ({other}) that is not known here.");
            }
        }

        End();
        if (groups.Count == 0) throw new StitchFileException("The plotter file draws no closed line.");
        var box = Box.Around(groups.Values.SelectMany(g => g).SelectMany(l => l));
        var (w, h) = (width ?? box.MaxX, height ?? box.MaxY);
        return new(title, w, h, [.. groups.Select(g => new CutGroup($"Pen {g.Key}", [.. g.Value.Select(l => l.Select(p => new Point(p.X, h - p.Y)).ToImmutableArray())]))]);

        void Move(List<double> numbers)
        {
            if (numbers.Count % 2 == 1) throw new StitchFileException("The plotter file has a place with half of its numbers.");
            for (var i = 0; i + 1 < numbers.Count; i += 2)
            {
                at = relative ? at + new Point(numbers[i], numbers[i + 1]) : new(numbers[i], numbers[i + 1]);
                if (!down) continue;
                line.Add(at);
                if (++points > CutFormats.MostPoints) throw new StitchFileException("The plotter file has more lines than any sheet.");
            }
        }
    }

    private static List<double> Numbers(string text) =>
    [
        .. text.Split([',', ' '], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(n => double.TryParse(n, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && Math.Abs(v) < 1e7 ? v : throw new StitchFileException("The plotter file has a number in it that is none.")),
    ];

    private static string Units(double mm) => ((int)Math.Round(mm * UnitsPerMm)).ToString(CultureInfo.InvariantCulture);
}
