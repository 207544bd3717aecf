document.title = 'Iwashi';
