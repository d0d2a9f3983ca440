import PDFDocument from 'pdfkit';

/** A PDF that carries a record, as a certificate does. */
export const pdfWith = (content: Buffer): Promise<Buffer> =>
  new Promise((resolve) => {
    const document = new PDFDocument();
    const parts: Buffer[] = [];
    document.on('data', (part) => parts.push(part));
    document.on('end', () => resolve(Buffer.concat(parts)));
    document.file(content, { name: 'record.json' });
    document.text('A certificate?');
    document.end();
  });
